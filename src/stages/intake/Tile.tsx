'use client';

import { useState, type PointerEvent } from 'react';
import type { ClipLook, Look } from '@/core/sitting/intake/look';
import type { Response } from '@/core/session/schema';
import { pictureUrl } from '@/ui/pictures';

/** Moments in a clip's strip, as its look has them; 0 for a still. */
export function momentsOf(look: Look | ClipLook | undefined): number {
  return look && 'moments' in look ? look.moments.length : 0;
}

/** A small picture; a clip is scrubbed through under the pointer. */
export function Tile({
  sha256,
  response,
  moments: count = 0,
  alt,
  className = '',
}: {
  sha256: string | undefined;
  response: Response;
  /** Of a clip: tiles in its strip. */
  moments?: number;
  alt: string;
  className?: string;
}) {
  const [share, setShare] = useState<number | null>(null);
  const follow = ({ currentTarget, clientX }: PointerEvent) => {
    const { left, width } = currentTarget.getBoundingClientRect();
    setShare(Math.min(1, Math.max(0, (clientX - left) / width)));
  };
  const moment = share === null ? null : Math.min(count - 1, Math.floor(share * count));
  return (
    <span
      className={`relative block overflow-hidden rounded-sm bg-well ${className}`}
      {...(count > 1 && {
        onPointerMove: follow,
        onPointerLeave: () => setShare(null),
        'data-moment': moment ?? undefined,
      })}
    >
      {sha256 && (
        <img
          src={pictureUrl(sha256, 320, response)}
          alt={alt}
          loading="lazy"
          draggable={false}
          className="w-full h-full object-cover"
        />
      )}
      {moment !== null && sha256 && (
        <>
          <span
            className="absolute inset-0 bg-no-repeat"
            style={{
              backgroundImage: `url(/api/files/${sha256}/strip)`,
              backgroundSize: `${100 * count}% 100%`,
              backgroundPosition: `${count > 1 ? (100 * moment) / (count - 1) : 0}% 0`,
            }}
          />
          <span className="absolute inset-y-0 w-px bg-ink" style={{ left: `${100 * share!}%` }} />
        </>
      )}
    </span>
  );
}
