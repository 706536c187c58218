'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect } from 'react';
import { useForm, type FieldErrors, type Resolver } from 'react-hook-form';
import { keptRigSchema, type KeptRig } from '@/core/sitting/kits/keptRig';
import { keepRigAction } from '@/server/shelfActions';
import { buttonClass } from '@/ui/Button';
import { Link } from '@/ui/Link';
import { SavedNote } from '@/ui/saving/SavedNote';
import { useKept } from '@/ui/saving/useKept';
import { RigAircraft } from './RigAircraft';
import { RigCamera, type RigForm } from './RigCamera';
import { RigLenses } from './RigLenses';
import { RigProfiles } from './RigProfiles';

const RESOLVER = zodResolver(keptRigSchema) as unknown as Resolver<RigForm>;

/** One rig: a camera with its lenses, and what can be set on it. Kept as it is typed; what is wrong with it is said. */
export function RigEditor({ id, revision, rig: first }: { id: string; revision: number; rig: KeptRig }) {
  const { item: rig, change, state, problem } = useKept(first, id, revision, keepRigAction);
  const form = useForm<RigForm>({ defaultValues: first, resolver: RESOLVER, mode: 'onChange' });
  const { control, subscribe, getValues, trigger } = form;
  useEffect(
    () =>
      subscribe({
        formState: { values: true },
        callback: () => {
          // The form goes on changing its own values; what is sent stays as it was.
          change(structuredClone(getValues()) as KeptRig);
          void trigger();
        },
      }),
    [subscribe, getValues, trigger, change],
  );
  const wrong = firstMessage(form.formState.errors);
  return (
    <main id="main" className="px-[18px] py-[18px] w-full max-w-[1180px] mx-auto">
      <div className="flex justify-between gap-4 items-start flex-wrap">
        <h1>{rig.camera || 'A rig without a name'}</h1>
        <div className="flex gap-3 items-center flex-wrap">
          <SavedNote state={state} problem={wrong ?? problem} />
          <Link href={`/plan?rig=${id}`} className={buttonClass('main')}>
            Plan a sitting
          </Link>
        </div>
      </div>
      <RigCamera control={control} />
      <RigLenses control={control} />
      <RigProfiles id={id} control={control} />
      <RigAircraft control={control} setValue={form.setValue} />
    </main>
  );
}

/** The first sentence among a form's faults, however deep it lies. */
export function firstMessage(errors: FieldErrors): string | null {
  for (const error of Object.values(errors) as unknown[]) {
    if (typeof error !== 'object' || error === null) continue;
    const { message } = error as { message?: unknown };
    if (typeof message === 'string' && message !== '') return message;
    const { ref: _, ...inside } = error as Record<string, unknown>;
    const deeper = firstMessage(inside as FieldErrors);
    if (deeper) return deeper;
  }
  return null;
}
