import { Labelled, TextInput } from '@/ui/controls/fields';

/** A password, which must be given; `of` tells password managers which one. */
export function PasswordField({
  words,
  of,
  value,
  onChange,
  className,
}: {
  words: string;
  of: 'current' | 'new';
  value: string;
  onChange: (value: string) => void;
  className?: string;
}) {
  return (
    <Labelled words={words}>
      <TextInput
        type="password"
        name={`${of}-password`}
        autoComplete={`${of}-password`}
        required
        className={className}
        value={value}
        onChange={({ target }) => onChange(target.value)}
      />
    </Labelled>
  );
}
