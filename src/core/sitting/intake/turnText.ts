/** Headings of a camera that turns about, as people write them: "0–360", "350 to 20". */

export interface Turn {
  fromDegrees: number;
  toDegrees: number;
}

/** `null` where the text isn't two headings. */
export function parseTurn(text: string): Turn | null {
  const match = /^\s*(-?\d+(?:\.\d+)?)\s*°?\s*(?:–|—|to|\.\.|\s-\s|-)\s*(-?\d+(?:\.\d+)?)\s*°?\s*$/.exec(
    text.replace('−', '-'),
  );
  if (!match) return null;
  const [fromDegrees, toDegrees] = [Number(match[1]), Number(match[2])];
  return fromDegrees === toDegrees ? null : { fromDegrees, toDegrees };
}

export function formatTurn(turn: Turn | undefined): string {
  return turn ? `${turn.fromDegrees}–${turn.toDegrees}` : '';
}
