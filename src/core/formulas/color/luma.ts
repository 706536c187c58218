/** Luma and color differences of R′G′B′ codes (ITU-T T.871, after ITU-R BT.601). */

/** Luma, in the codes' own unit. */
export function lumaOf(red: number, green: number, blue: number): number {
  return 0.299 * red + 0.587 * green + 0.114 * blue;
}

/** Blue and red difference from what each lies above luma, T.871's 0.5/(1 − 0.114) and 0.5/(1 − 0.299). */
export const BLUE_DIFFERENCE = 0.5 / (1 - 0.114);
export const RED_DIFFERENCE = 0.5 / (1 - 0.299);

/** Weights of red, green and blue in luma, blue and red difference. */
const COMPONENTS = [
  [0.299, 0.587, 0.114],
  [-0.299, -0.587, 1 - 0.114].map((weight) => BLUE_DIFFERENCE * weight),
  [1 - 0.299, -0.587, -0.114].map((weight) => RED_DIFFERENCE * weight),
];

/**
 * Standard deviations of luma, blue and red difference over pixels whose codes add up to `sums`, in the codes' own unit: sums of whole numbers
 * are exact, so that nothing is lost between them.
 *
 * @param sums of red, green, blue
 * @param products sums of red², green², blue², red·green, red·blue, green·blue
 * @param count of pixels, at least one
 */
export function componentDeviations(
  sums: ArrayLike<number>,
  products: ArrayLike<number>,
  count: number,
): [luma: number, blueDifference: number, redDifference: number] {
  const [r, g, b] = [sums[0] / count, sums[1] / count, sums[2] / count];
  const [rr, gg, bb] = [products[0] / count - r * r, products[1] / count - g * g, products[2] / count - b * b];
  const [rg, rb, gb] = [products[3] / count - r * g, products[4] / count - r * b, products[5] / count - g * b];
  return COMPONENTS.map(([red, green, blue]) =>
    Math.sqrt(
      Math.max(
        0,
        red * red * rr +
          green * green * gg +
          blue * blue * bb +
          2 * (red * green * rg + red * blue * rb + green * blue * gb),
      ),
    ),
  ) as [number, number, number];
}
