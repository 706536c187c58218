/** Says that a page of many sessions leaves older ones out. */
export const OnlyNewest = ({ count }: { count: number }) => (
  <p className="text-ink-2 mt-2">
    Only the newest {count} measured sessions are looked at; older sittings are missing here.
  </p>
);
