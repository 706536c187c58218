import type { ComponentProps } from 'react';

/** Stands in for the framework's link where a component is tested alone. */
export default function NextLink({ prefetch: _, ...rest }: ComponentProps<'a'> & { prefetch?: unknown }) {
  return <a {...rest} />;
}
