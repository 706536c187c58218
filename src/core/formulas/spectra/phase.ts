/** The shift between two spectra: their cross spectrum's phase is a plane over the frequencies, its slope 2π times the shift. */

/** Fits a plane through the origin to phases, each weighed by its size. */
export class PhasePlane {
  private xx = 0;
  private yy = 0;
  private xy = 0;
  private rx = 0;
  private ry = 0;

  /** A value of the cross spectrum at a frequency. */
  add(fx: number, fy: number, re: number, im: number): void {
    const weight = Math.hypot(re, im);
    const phase = Math.atan2(im, re);
    this.xx += weight * fx * fx;
    this.yy += weight * fy * fy;
    this.xy += weight * fx * fy;
    this.rx += weight * fx * phase;
    this.ry += weight * fy * phase;
  }

  /** Radians per unit of either frequency; `null` where nothing tells one of them. */
  slope(): [number, number] | null {
    const { xx, yy, xy, rx, ry } = this;
    const det = xx * yy - xy * xy;
    return det > 1e-18 ? [(rx * yy - ry * xy) / det, (ry * xx - rx * xy) / det] : null;
  }
}
