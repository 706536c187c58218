/** Heads of a table of figures: the first over names, the last over a word, which is only read aloud; figures stand on the right. */
export function FiguresHead({ names }: { names: readonly string[] }) {
  return (
    <thead>
      <tr className="text-left text-ink-3">
        {[...names, ''].map((name, i) => (
          <th
            key={name}
            scope="col"
            className={`font-medium pr-3 pb-1 whitespace-nowrap ${i > 0 && name ? 'text-right' : ''}`}
          >
            {name || <span className="sr-only">In a word</span>}
          </th>
        ))}
      </tr>
    </thead>
  );
}
