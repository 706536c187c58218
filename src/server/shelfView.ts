/** The shelf as it is looked at: kits with their ladder, price and what was last found of them. */
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import type { HomeSession } from '@/stages/home/listed';
import type { ShelfEntry } from '@/stages/kits/ShelfList';
import { listSessions, sessionsOfKits, wholeKits } from '@/store';
import { beadsOf } from '@/ui/beads';
import { bandsInForce } from './judged';
import { catchUp, entriesOf } from './sessionCards';

/** Newest sittings that are looked through for a kit's figures; where they leave a filter out, so many. */
const SITTINGS = { first: 3, then: 30 };

/** Kits, last changed first. */
export async function shelfKits(): Promise<ShelfEntry[]> {
  const kits = await wholeKits();
  const bands = await bandsInForce();
  // Sittings are looked for by their cards: one that was measured since nobody has listed yet.
  await catchUp(bands);
  const look = async (some: typeof kits, ofEach: number) => {
    const ids = await sessionsOfKits([...new Set(some.map(({ item }) => item.name ?? item.id))], ofEach);
    const sessions = await entriesOf(await listSessions(ids.length, ids), bands);
    return some.map(({ id, item }) => entryOf(id, item, sessions));
  };
  const found = await look(kits, SITTINGS.first);
  const isPart = ({ beads = [] }: ShelfEntry) => beads.some((one) => !one.found && !one.span);
  const again = await look(kits.filter((_, i) => isPart(found[i])), SITTINGS.then); // prettier-ignore
  return found.map((one) => again.find(({ id }) => id === one.id) ?? one);
}

/** A kit's line: each filter's strength by the newest sitting that measured it; its label alone where none did. */
export function entryOf(id: string, kit: KeptKit, sessions: readonly HomeSession[]): ShelfEntry {
  const name = kit.name ?? kit.id;
  // A sitting of several kits finds something of all of them: its words may be another's.
  const own = sessions.filter(
    ({ kits, beads }) => kits.length === 1 && kits[0] === name && beads.some((bead) => bead.found || bead.span),
  );
  const last = own.at(0);
  const foundOf = (filter: string) =>
    own.flatMap(({ beads }) => beads.find((bead) => bead.id === filter && (bead.found || bead.span)) ?? []).at(0);
  const price = priceOf(kit);
  return {
    id,
    name,
    items: kit.filters.length,
    beads: beadsOf({ kits: [kit] }, null).map((labelled) => foundOf(labelled.id) ?? labelled),
    ...(price ? { price } : {}),
    ...(last?.finding ? { finding: { words: last.finding, day: last.day, href: `/sessions/${last.id}/verdict` } } : {}),
  };
}

/** What the kit cost, or its filters one by one where all of them have a price. */
function priceOf({ price, filters }: KeptKit): string | null {
  if (price) return `${price.amount} ${price.currency}`;
  const each = filters.map((one) => one.price);
  if (each.length === 0 || each.some((one) => one === undefined)) return null;
  return `${Math.round(100 * each.reduce<number>((sum, one) => sum + one!, 0)) / 100} in all`;
}
