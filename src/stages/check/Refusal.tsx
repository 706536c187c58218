/** Why something wasn't done, where it wasn't. */
export function Refusal({ words }: { words: string | null }) {
  return words === null ? null : (
    <p role="alert" className="text-failure">
      {words}
    </p>
  );
}
