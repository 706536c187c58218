'use client';

import NextLink from 'next/link';
import { useState, type ComponentProps } from 'react';

/** A link whose page is fetched ahead when somebody is about to follow it, not already when it comes into view: every page asks the database. */
export function Link(props: ComponentProps<typeof NextLink>) {
  const [near, setNear] = useState(false);
  return (
    <NextLink
      {...props}
      prefetch={near ? null : false}
      onPointerEnter={(event) => {
        setNear(true);
        props.onPointerEnter?.(event);
      }}
      onFocus={(event) => {
        setNear(true);
        props.onFocus?.(event);
      }}
    />
  );
}
