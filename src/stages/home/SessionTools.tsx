import { Archive, Search, X } from 'lucide-react';
import { useRef } from 'react';
import { Button } from '@/ui/Button';
import { TextInput } from '@/ui/controls/fields';
import { Select } from '@/ui/controls/Select';
import { useKeys } from '@/ui/keys';
import { inOrder, SORTS, type Wanted } from './listed';

const option = <T extends string>(name: T) => [name, name] as const;

/** Search, order and choice of the list; what is done with several at once. */
export function SessionTools({
  names,
  wanted,
  onWant,
  chosen,
  onPutAway,
  onLeave,
}: {
  /** Kits and cameras to choose from. */
  names: { kits: readonly string[]; cameras: readonly string[] };
  wanted: Wanted;
  onWant: (wanted: Wanted) => void;
  chosen: number;
  onPutAway: () => void;
  onLeave: () => void;
}) {
  const search = useRef<HTMLInputElement>(null);
  useKeys((key) => {
    if (key !== '/') return false;
    search.current?.focus();
    return true;
  });
  const [kits, cameras] = [inOrder(names.kits), inOrder(names.cameras)];
  return (
    <div className="flex gap-2 flex-wrap items-center pb-3" role="search" aria-label="Sessions">
      <span className="relative grow basis-[220px] max-w-[340px]">
        <Search size={15} aria-hidden className="absolute left-2.5 top-1/2 -translate-y-1/2 text-ink-3" />
        <TextInput
          ref={search}
          aria-label="Search sessions"
          placeholder="Search: title, kit, place, camera"
          className="w-full !pl-8"
          value={wanted.text}
          onChange={({ target }) => onWant({ ...wanted, text: target.value })}
          onKeyDown={(event) => event.key === 'Escape' && onWant({ ...wanted, text: '' })}
        />
        <kbd aria-hidden className="absolute right-2.5 top-1/2 -translate-y-1/2 text-ink-3 text-small">
          /
        </kbd>
      </span>
      {kits.length > 1 && (
        <Select
          label="Kit"
          className="w-[150px]"
          value={wanted.kit}
          options={[['', 'all kits'], ...kits.map(option)]}
          onChange={(kit) => onWant({ ...wanted, kit })}
        />
      )}
      {cameras.length > 1 && (
        <Select
          label="Camera"
          className="w-[150px]"
          value={wanted.camera}
          options={[['', 'all cameras'], ...cameras.map(option)]}
          onChange={(camera) => onWant({ ...wanted, camera })}
        />
      )}
      <Select
        label="Order"
        className="w-[160px]"
        value={wanted.sort}
        options={SORTS.map(option)}
        onChange={(sort) => onWant({ ...wanted, sort })}
      />
      {chosen > 0 && (
        <span className="ml-auto flex gap-1" role="status">
          <Button onClick={onPutAway}>
            <Archive size={16} aria-hidden /> Put {chosen} away
          </Button>
          <Button look="quiet" onClick={onLeave}>
            <X size={16} aria-hidden /> Choose none
          </Button>
        </span>
      )}
    </div>
  );
}
