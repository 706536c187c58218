'use client';

import { saveCard, type Card } from './cards';

/** Saves one card in both shapes. */
export function CardButtons({ card, name, words }: { card: Card; name: string; words: string }) {
  const button = 'underline text-ink-2 hover:text-ink';
  return (
    <p className="flex gap-3 flex-wrap text-label">
      <span className="text-ink-3">{words}</span>
      <button type="button" className={button} onClick={() => void saveCard(card, 'wide', name)}>
        1920 × 1080
      </button>
      <button type="button" className={button} onClick={() => void saveCard(card, 'upright', name)}>
        1080 × 1920
      </button>
    </p>
  );
}
