import { useEffect, useRef } from 'react';

/** Says what is new among some lines, where that is wanted and the browser can speak. */
export function useSpoken(lines: readonly string[], wanted: boolean): void {
  const said = useRef<ReadonlySet<string>>(new Set());
  useEffect(() => {
    const fresh = lines.filter((line) => !said.current.has(line));
    said.current = new Set(lines);
    if (!wanted || typeof speechSynthesis === 'undefined') return;
    for (const line of fresh) speechSynthesis.speak(new SpeechSynthesisUtterance(line));
  }, [lines, wanted]);
}
