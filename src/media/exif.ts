/** Exposure and time that a still carries: EXIF 2.32 (Exif IFD), and XMP (ISO 16684-1, the exif and photoshop schemas) where that is silent. */
import exifr from 'exifr';
import type { Exposure } from '@/core/formulas/optics/exposure';
import type { CameraSettings } from '@/core/session/cameraCheck';

export interface StillFacts {
  exposure: Partial<Exposure>;
  capturedAt: string | null;
  whiteBalance: string | null;
  /** EXIF orientation, 1–8. */
  orientation: number;
  /** EXIF ColorSpace 1 is sRGB. */
  srgb: boolean;
  camera: CameraSettings;
  lens: string | null;
}

const NOTHING: StillFacts = {
  exposure: {},
  capturedAt: null,
  whiteBalance: null,
  orientation: 1,
  srgb: false,
  camera: {},
  lens: null,
};

/** Before an EXIF block that a container holds by itself. */
const EXIF_MARK = 'Exif\0\0';

/**
 * Reads the metadata of a file, or of the EXIF block that a container held. A file without any, or with damaged ones, gives the empty
 * facts.
 */
export async function readExif(from: string | Buffer): Promise<StillFacts> {
  let tags: Record<string, unknown> | undefined;
  const source =
    typeof from !== 'string' && from.toString('latin1', 0, EXIF_MARK.length) === EXIF_MARK
      ? from.subarray(EXIF_MARK.length)
      : from;
  try {
    // Values are revived here, by hand: the library ignores the time offset.
    tags = await exifr.parse(source, {
      reviveValues: false,
      translateValues: false,
      tiff: true,
      exif: true,
      gps: false,
    });
  } catch {
    return NOTHING;
  }
  if (typeof from === 'string' && (!tags || !positive(tags.ExposureTime))) tags = { ...(await readXmp(from)), ...tags };
  if (!tags || Object.keys(tags).length === 0) return NOTHING;
  const exposure: Partial<Exposure> = {};
  const shutter = tags.ExposureTime;
  const fNumber = tags.FNumber;
  const iso = Array.isArray(tags.ISO)
    ? tags.ISO[0]
    : (tags.ISO ?? tags.PhotographicSensitivity ?? tags.ISOSpeedRatings);
  if (positive(shutter)) exposure.shutterSeconds = exactShutter(shutter);
  if (positive(fNumber)) exposure.fNumber = fNumber;
  if (positive(iso)) exposure.iso = iso;
  return {
    exposure,
    capturedAt: timeOf(tags),
    whiteBalance: tags.WhiteBalance === 0 ? 'auto' : tags.WhiteBalance === 1 ? 'manual' : null,
    orientation:
      typeof tags.Orientation === 'number' && tags.Orientation >= 1 && tags.Orientation <= 8 ? tags.Orientation : 1,
    srgb: tags.ColorSpace === 1,
    camera: settingsOf(tags),
    lens:
      typeof tags.LensModel === 'string' && tags.LensModel.trim() !== '' ? tags.LensModel.trim().slice(0, 100) : null,
  };
}

/** Make, model, and EXIF 2.32's tags of how a picture was drawn (CustomRendered, Contrast, Saturation, Sharpness). */
function settingsOf(tags: Record<string, unknown>): CameraSettings {
  const words = { make: tags.Make, model: tags.Model };
  const numbers = {
    rendered: tags.CustomRendered,
    contrast: tags.Contrast,
    saturation: tags.Saturation,
    sharpness: tags.Sharpness,
  };
  return {
    ...Object.fromEntries(
      Object.entries(words).flatMap(([key, value]) =>
        typeof value === 'string' && value.trim() !== '' ? [[key, value.trim().slice(0, 100)]] : [],
      ),
    ),
    ...Object.fromEntries(
      Object.entries(numbers).filter(([, value]) => typeof value === 'number' && Number.isFinite(value)),
    ),
  };
}

/** XMP's exposure and time under EXIF's names. */
async function readXmp(path: string): Promise<Record<string, unknown>> {
  let found: Record<string, unknown> | undefined;
  try {
    found = await exifr.parse(path, { tiff: false, xmp: true, icc: false, iptc: false, jfif: false, ihdr: false });
  } catch {
    return {};
  }
  const { ExposureTime, FNumber, ISOSpeedRatings, PhotographicSensitivity, DateTimeOriginal, DateCreated } =
    found ?? {};
  const iso = ISOSpeedRatings ?? PhotographicSensitivity;
  const told: Record<string, unknown> = {
    ExposureTime: rational(ExposureTime),
    FNumber: rational(FNumber),
    ISO: rational(Array.isArray(iso) ? iso[0] : iso),
    ...xmpTime(DateTimeOriginal ?? DateCreated),
  };
  return Object.fromEntries(Object.entries(told).filter(([, value]) => value !== undefined));
}

/** XMP writes rationals as text: `1/2000`. */
function rational(value: unknown): number | undefined {
  const match = /^(\d+(?:\.\d+)?)(?:\/(\d+(?:\.\d+)?))?$/.exec(String(value ?? ''));
  return match ? Number(match[1]) / Number(match[2] ?? 1) : undefined;
}

/** ISO 8601 in one, EXIF's date and offset in two. */
function xmpTime(value: unknown): Record<string, unknown> {
  const text = value instanceof Date ? value.toISOString() : value;
  if (typeof text !== 'string') return {};
  const offset = /(?:Z|[+-]\d\d:\d\d)$/.exec(text)?.[0];
  return { DateTimeOriginal: text, ...(offset && offset !== 'Z' ? { OffsetTimeOriginal: offset } : {}) };
}

function positive(value: unknown): value is number {
  return typeof value === 'number' && Number.isFinite(value) && value > 0;
}

/** 0.000500000023 → 1/2000: rationals that came through single precision are put back on their denominator. */
function exactShutter(seconds: number): number {
  const denominator = 1 / seconds;
  const rounded = Math.round(denominator);
  return rounded >= 2 && Math.abs(denominator - rounded) < 1e-4 * denominator ? 1 / rounded : seconds;
}

/** `2026:05:14 09:02:00` with its sub-seconds and offset; local time without an offset is taken as UTC. */
function timeOf(tags: Record<string, unknown>): string | null {
  const text = tags.DateTimeOriginal ?? tags.CreateDate ?? tags.ModifyDate;
  if (typeof text !== 'string') return null;
  const match = /^(\d{4})[:-](\d\d)[:-](\d\d)[ T](\d\d):(\d\d):(\d\d)/.exec(text);
  if (!match) return null;
  const [, year, month, day, hour, minute, second] = match;
  const fraction =
    typeof tags.SubSecTimeOriginal === 'string' && /^\d+$/.test(tags.SubSecTimeOriginal)
      ? `.${tags.SubSecTimeOriginal}`
      : '';
  const offset = tags.OffsetTimeOriginal ?? tags.OffsetTime;
  const zone = typeof offset === 'string' && /^[+-]\d\d:\d\d$/.test(offset) ? offset : 'Z';
  const stamp = `${year}-${month}-${day}T${hour}:${minute}:${second}${fraction}${zone}`;
  return Number.isNaN(Date.parse(stamp)) ? null : stamp;
}
