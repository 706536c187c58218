/** Luma and color differences of R′G′B′ codes (ITU-T T.871, after ITU-R BT.601). */

/** Luma, in the codes' own unit. */
export function lumaOf(red: number, green: number, blue: number): number {
  return 0.299 * red + 0.587 * green + 0.114 * blue;
}

/** Blue and red difference from what each lies above luma, T.871's 0.5/(1 − 0.114) and 0.5/(1 − 0.299). */
export const BLUE_DIFFERENCE = 0.5 / (1 - 0.114);
export const RED_DIFFERENCE = 0.5 / (1 - 0.299);
