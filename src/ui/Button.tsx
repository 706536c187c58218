import type { ButtonHTMLAttributes } from 'react';

type Look = 'main' | 'plain' | 'quiet';

const LOOKS: Record<Look, string> = {
  main: 'bg-accent text-on-accent hover:brightness-110',
  plain: 'bg-raised text-ink hover:brightness-110',
  quiet: 'text-ink-2 hover:text-ink hover:bg-sheet',
};

/** Classes of a button, for links that look like one. */
export function buttonClass(look: Look = 'plain'): string {
  return `inline-flex items-center gap-2 rounded-md px-3.5 py-2 font-semibold text-label whitespace-nowrap disabled:opacity-50 disabled:cursor-not-allowed ${LOOKS[look]}`;
}

/** A button; `main` is the one thing to do next. */
export function Button({
  look = 'plain',
  className = '',
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look }) {
  return <button type={type} className={`${buttonClass(look)} ${className}`} {...rest} />;
}
