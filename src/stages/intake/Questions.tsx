'use client';

import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import type { Response } from '@/core/session/schema';
import { Button } from '@/ui/Button';
import { momentsOf, Tile } from './Tile';
import type { ArrivedFile } from '@/core/sitting/intake/arrived';

/** A file whose filter has to be asked. */
export interface Question {
  file: ArrivedFile;
  doubt: string;
  facts: string;
  /** The likeliest first. */
  options: { id: string; label: string; reasons: string[] }[];
}

const TYPED_INTO = 'input, textarea, select, [role="combobox"], [contenteditable="true"]';

/** The one list of what is unsure: digits choose, arrows walk, `u` takes the last answer back. */
export function Questions({
  questions,
  response,
  onChoose,
  onAll,
  onUndo,
  canUndo,
}: {
  questions: Question[];
  response: Response;
  onChoose: (path: string, option: string) => void;
  onAll: () => void;
  onUndo: () => void;
  canUndo: boolean;
}) {
  const [asked, setAsked] = useState<string | null>(null);
  const region = useRef<HTMLElement>(null);
  const answered = useRef<string[]>([]);
  const at = Math.max(
    0,
    questions.findIndex((one) => one.file.path === asked),
  );
  const current = questions.at(at);
  // The first question has the keyboard as soon as it is there; but not while somebody types: half a kit raises questions, and the rest of
  // the letters would answer them.
  const first = questions.length > 0;
  useEffect(() => {
    if (first && !document.activeElement?.matches(TYPED_INTO)) region.current?.focus({ preventScroll: true });
  }, [first]);

  const walk = (by: number) => setAsked(questions[(at + by + questions.length) % questions.length].file.path);
  const choose = (option: string) => {
    if (!current) return;
    answered.current.push(current.file.path);
    setAsked(questions.at(at + 1)?.file.path ?? null);
    onChoose(current.file.path, option);
  };
  const takeBack = () => {
    // The question that was answered last is asked again.
    setAsked(answered.current.pop() ?? null);
    onUndo();
  };
  const press = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.target instanceof HTMLSelectElement) return;
    const digit = Number(event.key);
    const option = Number.isInteger(digit) && digit > 0 ? current?.options.at(digit - 1) : undefined;
    if (option) choose(option.id);
    else if (event.key === 'ArrowDown' || event.key === 'ArrowRight') walk(1);
    else if (event.key === 'ArrowUp' || event.key === 'ArrowLeft') walk(-1);
    else if (event.key === 'u' && canUndo) takeBack();
    else return;
    // Digits lead to stages elsewhere.
    event.stopPropagation();
    event.nativeEvent.stopImmediatePropagation();
    event.preventDefault();
  };

  if (!current) return null;
  return (
    <section
      ref={region}
      tabIndex={-1}
      aria-label="Questions"
      className="mt-5 rounded-sheet bg-sheet p-4 outline-none focus-visible:outline-none"
      onKeyDown={press}
    >
      <div className="flex justify-between items-baseline gap-4 flex-wrap">
        <h2>{questions.length === 1 ? 'One file needs a filter' : `${questions.length} files need a filter`}</h2>
        <div className="flex gap-1">
          {canUndo && (
            <Button look="quiet" onClick={takeBack}>
              Take back <kbd>u</kbd>
            </Button>
          )}
          {questions.length > 1 && (
            <Button look="quiet" onClick={onAll}>
              Take the likeliest for all
            </Button>
          )}
        </div>
      </div>
      <div className="grid gap-5 mt-3 md:grid-cols-[300px_1fr]">
        <div>
          <Tile
            sha256={current.file.stored.sha256}
            response={response}
            moments={current.file.stored.facts.readable ? momentsOf(current.file.stored.facts.look) : 0}
            alt={current.file.path}
            className="aspect-3/2"
          />
          <p className="mt-2 break-all font-semibold">{current.file.path}</p>
          <p className="text-ink-3 text-small">{current.facts}</p>
        </div>
        <div>
          <p aria-live="polite">{current.doubt} Where does it belong?</p>
          <ol className="grid gap-1.5 mt-2">
            {current.options.map((option, i) => (
              <li key={option.id}>
                <button
                  type="button"
                  onClick={() => choose(option.id)}
                  className="w-full text-left rounded-md bg-raised hover:brightness-110 px-3 py-2 flex gap-3 items-baseline"
                >
                  <kbd aria-hidden>{i + 1}</kbd>
                  <span className="font-semibold min-w-[110px]">{option.label}</span>
                  <span className="text-small">{option.reasons.slice(0, 3).join('; ')}</span>
                </button>
              </li>
            ))}
          </ol>
          {questions.length > 1 && (
            <div className="flex gap-1.5 mt-3 flex-wrap" role="group" aria-label="All questions">
              {questions.slice(0, 24).map((one, i) => (
                <button
                  key={one.file.path}
                  type="button"
                  aria-label={`Ask about ${one.file.path}`}
                  aria-current={i === at}
                  onClick={() => setAsked(one.file.path)}
                  className="w-[54px] rounded-sm aria-[current=true]:outline-2 outline-accent"
                >
                  <Tile sha256={one.file.stored.sha256} response={response} alt="" className="h-[36px]" />
                </button>
              ))}
            </div>
          )}
        </div>
      </div>
    </section>
  );
}
