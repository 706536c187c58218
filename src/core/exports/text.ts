/** Readings as text that other programs read: CGATS of the colors, rows of the step table and of the takes. */
import { stepsOf, type RankedFilter } from '../judging/ranking/kitAsSet';
import type { Readings } from '../session/readings';
import type { Session } from '../session/schema';

const quoted = (text: string) => `"${text.replace(/["\r\n\t]/g, ' ')}"`;

/** CGATS.17 text of all casts: CIE L*a*b* at L* 50, their ±, ΔE00, and gains that cancel them. */
export function cgatsOf(session: Session, readings: Readings): string {
  const names = new Map(session.kits.flatMap((kit) => kit.filters.map((one) => [one.id, one.name ?? one.id])));
  const fields = [
    'SAMPLE_ID',
    'SAMPLE_NAME',
    'LAB_L',
    'LAB_A',
    'LAB_B',
    'U95_A',
    'U95_B',
    'DE00',
    'GAIN_R',
    'GAIN_G',
    'GAIN_B',
  ];
  const rows = readings.filters.flatMap(({ filter, cast }) =>
    cast
      ? [
          [
            quoted(filter),
            quoted(names.get(filter) ?? filter),
            '50.000',
            ...[cast.a.value, cast.b.value, cast.a.u95, cast.b.u95, cast.deltaE00.value].map((one) => one.toFixed(3)),
            ...[cast.gains.r, cast.gains.g, cast.gains.b].map((one) => one.toFixed(5)),
          ].join('\t'),
        ]
      : [],
  );
  return [
    'CGATS.17',
    `ORIGINATOR ${quoted(readings.generator)}`,
    `DESCRIPTOR ${quoted(`Casts of filters, ${readings.session}`)}`,
    `CREATED ${quoted(readings.createdAt)}`,
    'KEYWORD "U95_A"',
    'KEYWORD "U95_B"',
    'KEYWORD "DE00"',
    'KEYWORD "GAIN_R"',
    'KEYWORD "GAIN_G"',
    'KEYWORD "GAIN_B"',
    `NUMBER_OF_FIELDS ${fields.length}`,
    'BEGIN_DATA_FORMAT',
    fields.join('\t'),
    'END_DATA_FORMAT',
    `NUMBER_OF_SETS ${rows.length}`,
    'BEGIN_DATA',
    ...rows,
    'END_DATA',
    '',
  ].join('\r\n');
}

/** The step table: a header, and a row for each two neighbors. */
export function stepRows(filters: readonly RankedFilter[]): string[][] {
  return [
    ['from', 'to', 'labelled step (stops)', 'found step (stops)', 'u95 (stops)', 'finding'],
    ...stepsOf(filters).map(({ from, to, labelled, found, state }) => [
      from,
      to,
      labelled.toFixed(3),
      found.value.toFixed(3),
      found.u95.toFixed(3),
      state,
    ]),
  ];
}

/** The log of takes: a header, and a row for each. */
export function takeRows({ takes }: Session): string[][] {
  return [
    [
      'take',
      'filter',
      'scene',
      'role',
      'captured at (ISO 8601)',
      'shutter',
      'ISO',
      'f-number',
      'ring (degrees)',
      'mark',
      'files',
      'note',
    ],
    ...takes.map(({ id, filter, scene, role, capturedAt, exposure, setting, files, note }) => [
      id,
      filter ?? 'bare',
      scene,
      role,
      capturedAt ?? '',
      exposure.shutter === undefined ? '' : String(exposure.shutter),
      exposure.iso === undefined ? '' : String(exposure.iso),
      exposure.fNumber === undefined ? '' : String(exposure.fNumber),
      setting?.ringDegrees === undefined ? '' : String(setting.ringDegrees),
      setting?.mark === undefined ? '' : String(setting.mark),
      files.join(' '),
      note ?? '',
    ]),
  ];
}
