/** @jest-environment jsdom */
/** From loose pictures to a session: what is asked, what is filled in, what is sent. */
import { screen, waitFor, within } from '@testing-library/react';
import type { ArrivedFile } from '@/core/sitting/intake/arrived';
import type { DraftPicture } from '@/core/sitting/intake/draft';
import { forgetWays, went } from '@/ui/testing/navigation';
import { choose, show } from '@/ui/testing/render';
import { Draft } from './Draft';
import { DraftTile } from './DraftTile';
import { kitInNames } from '@/core/sitting/intake/filterWords';
import { emptyBelow, filledFrom } from './fill';
import { NewSession } from './NewSession';
import { joined } from './useIntake';

const sha = (n: number) => n.toString(16).padStart(64, '0');
function arrived(path: string, n: number, exposure: Record<string, number> = {}): ArrivedFile {
  return {
    path,
    stored: {
      sha256: sha(n),
      bytes: 1000,
      facts: {
        readable: true,
        picture: {
          width: 1200,
          height: 800,
          channels: 3,
          bitDepth: 8,
          encoding: { kind: 'srgb' } as never,
          exposure,
          capturedAt: `2026-05-14T09:0${n}:00Z`,
          whiteBalance: null,
        },
      },
    },
  };
}
const CARD = [
  arrived('chart_bare_1.png', 1, { shutterSeconds: 1 / 2000, iso: 100 }),
  arrived('chart_ND4.png', 2, { shutterSeconds: 1 / 500, iso: 100 }),
  arrived('chart_ND8.png', 3, { shutterSeconds: 1 / 250, iso: 100 }),
];
let sent: { address: string; body: unknown }[];
let answer: unknown;
beforeEach(() => {
  sent = [];
  answer = { id: 'made' };
  forgetWays();
  globalThis.fetch = jest.fn((address: string, asked?: { body?: string }) => {
    sent.push({ address, body: asked?.body === undefined ? null : JSON.parse(asked.body) });
    return Promise.resolve({ ok: true, json: () => Promise.resolve(answer) });
  }) as never;
});

describe('a draft', () => {
  const draw = (files = CARD) => show(<Draft rigs={[]} pictures={files} onMore={jest.fn()} onLeaveOut={jest.fn()} />);

  test('the names spell the kit, exposures come from the files, and the session is sent', async () => {
    const { user } = draw();
    expect(screen.getByLabelText<HTMLInputElement>('Kit in shorthand').value).toBe('ND4 ND8');
    expect(screen.getByLabelText('Filter of chart_ND8.png').textContent).toBe('ND8');
    expect(screen.getByLabelText<HTMLInputElement>('Shutter of chart_ND4.png').value).toBe('1/500');
    await user.type(screen.getByLabelText('Title'), 'My bench');
    await user.click(screen.getByRole('button', { name: 'Create session' }));
    await waitFor(() => expect(went.pushed).toEqual(['/sessions/made/regions']));
    const { document, files } = sent[0].body as { document: { title: string; takes: unknown[] }; files: object };
    expect(document.title).toBe('My bench');
    expect(document.takes).toHaveLength(3);
    expect(Object.keys(files)).toEqual(CARD.map((one) => one.path));
  });

  test('what is missing is asked, and nothing is sent before it is said', async () => {
    const { user } = draw([arrived('a.png', 1, { shutterSeconds: 1 / 100, iso: 100 }), ...CARD.slice(1)]);
    await user.clear(screen.getByLabelText('Kit in shorthand'));
    const missing = screen.getByRole('list', { name: 'What is missing' });
    expect(missing.textContent).toContain('Type the kit');
    expect(screen.getByRole('button', { name: 'Create session' })).toHaveProperty('disabled', true);
    await user.type(screen.getByLabelText('Kit in shorthand'), 'ND4 8');
    expect(missing.textContent).not.toContain('Type the kit');
  });

  test('a correction stays, and Ctrl-Z takes it back', async () => {
    const { user } = draw();
    await choose(user, 'Filter of chart_ND8.png', 'ND4');
    expect(screen.getByLabelText('Filter of chart_ND8.png').textContent).toBe('ND4');
    await user.keyboard('{Control>}z{/Control}');
    expect(screen.getByLabelText('Filter of chart_ND8.png').textContent).toBe('ND8');
  });

  test('what a picture shows, and its setting', async () => {
    const { user } = draw();
    await choose(user, 'What chart_ND4.png shows', 'even wall');
    expect(screen.getByLabelText('What chart_ND4.png shows').textContent).toBe('even wall');
    expect(screen.getByRole('region', { name: 'Even wall' })).toBeTruthy();
  });

  test('an aperture is asked for where it isn’t fixed', async () => {
    const { user } = draw();
    expect(screen.queryByRole('columnheader', { name: 'f-number' })).toBeNull();
    await user.click(screen.getByRole('checkbox', { name: /aperture is fixed/ }));
    expect(screen.getByRole('columnheader', { name: 'f-number' })).toBeTruthy();
  });

  test('a refusal of the server is told, and the draft stays', async () => {
    answer = { error: 'kits[0]: expected a name.' };
    const { user } = draw();
    await user.click(screen.getByRole('button', { name: 'Create session' }));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('kits[0]: expected a name.'));
    expect(went.pushed).toEqual([]);
    expect(screen.getByRole('button', { name: 'Create session' })).toHaveProperty('disabled', false);
  });

  test('a picture that can’t be read is named with the reason, and not laid', () => {
    const broken: ArrivedFile = {
      path: 'broken.png',
      stored: { sha256: sha(9), bytes: 3, facts: { readable: false, reason: 'it ends too early.' } },
    };
    draw([...CARD, broken]);
    expect(screen.getByText('broken.png is left out: it ends too early.')).toBeTruthy();
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Match 3 pictures to filters');
  });
});

describe('filling below', () => {
  const row = (path: string, filter: string | null | undefined, shutter = '', iso = ''): DraftPicture =>
    ({ path, filter, shutter, iso, fNumber: '', scene: 'chart', bracket: false, capturedAt: null }) as DraftPicture;
  const filters = [{ id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 } }] as never;

  test('first those of the same filter, then all; none without an exposure of its own', () => {
    const rows = [row('a', 'nd8', '1/50', '100'), row('b', null), row('c', 'nd8')];
    expect(emptyBelow(rows, 0, filters)).toMatchObject({ words: 'Same for all ND8', rows: [rows[2]] });
    expect(emptyBelow([rows[0], rows[1]], 0, filters)).toMatchObject({ words: 'Same for all below' });
    expect(emptyBelow(rows, 1, filters)).toBeNull();
    expect(emptyBelow([row('a', null, '1/50', '100'), row('b', null)], 0, filters)!.words).toBe('Same for all bare');
    expect(emptyBelow([rows[0]], 0, filters)).toBeNull();
  });

  test('gives only what the others lack', () => {
    const filled = filledFrom(row('a', null, '1/50', '100'), [row('b', null, '', '400'), row('c', null)]);
    expect(filled.get('b')).toEqual({ shutter: '1/50', iso: '400', fNumber: '' });
    expect(filled.get('c')).toEqual({ shutter: '1/50', iso: '100', fNumber: '' });
  });
});

test.each([
  [['x_ND64.png', 'x_nd4.png', 'x-CPL-1.png'], 'ND4 ND64 CPL'],
  [['DSC_0001.png'], ''],
  [['a/ND8PL_1.tif', 'b/ND8PL_2.tif'], 'ND8/PL'],
])('the kit that names spell: %j', (paths, kit) => {
  expect(kitInNames(paths)).toBe(kit);
});

describe('files that arrive', () => {
  test('each once, and each under a name of its own', () => {
    const more = [CARD[0], { ...arrived('chart_ND4.png', 7) }, { ...arrived('chart_ND4.png', 8) }];
    const again = joined(CARD, [...more, { ...CARD[1], path: 'copy of it.png' }]);
    expect(again.copies).toEqual([{ path: 'copy of it.png', of: CARD[1].path }]);
    expect(again.all.map((one) => one.path)).toEqual([
      ...CARD.map((one) => one.path),
      'chart_ND4-2.png',
      'chart_ND4-3.png',
    ]);
  });

  test('a picture whose copy was refused is no copy', () => {
    const refused: ArrivedFile = {
      path: 'named.jpg',
      stored: { ...CARD[0].stored, facts: { readable: false, reason: 'its name says JPEG, its content is HEIF.' } },
    };
    const { all, copies } = joined([refused], [CARD[0], { ...CARD[0], path: 'again.png' }]);
    expect(all.map((one) => one.path)).toEqual(['named.jpg', CARD[0].path]);
    expect(copies).toEqual([{ path: 'again.png', of: CARD[0].path }]);
  });

  test('those that wait are offered, and can be put away', async () => {
    const { user } = show(<NewSession inbox={CARD} />);
    const waiting = within(screen.getByRole('region', { name: 'Files that wait' }));
    expect(waiting.getByRole('heading').textContent).toBe('3 files wait to be laid on a session');
    await user.click(waiting.getByRole('button', { name: 'Put them away' }));
    expect(screen.queryByRole('region', { name: 'Files that wait' })).toBeNull();
    expect(sent[0]).toEqual({ address: '/api/inbox', body: { sha256: CARD.map((one) => one.stored.sha256) } });
  });

  test('or gone on with; one is left out', async () => {
    const { user } = show(<NewSession inbox={CARD} />);
    await user.click(screen.getByRole('button', { name: 'Go on with them' }));
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Match 3 pictures to filters');
    await user.click(screen.getByRole('button', { name: 'Leave chart_ND4.png out' }));
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Match 2 pictures to filters');
  });

  test('files of no kind that can be read are told', async () => {
    answer = { files: [] };
    const { user } = show(<NewSession inbox={[]} />);
    await user.upload(screen.getByLabelText('Files'), new File(['x'], 'notes.txt'));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('Nothing there that can be read'));
  });

  test('a session file that isn’t one is told', async () => {
    answer = { files: [] };
    const { user } = show(<NewSession inbox={[]} />);
    await user.upload(screen.getByLabelText('Files'), new File(['{'], 'session.glade.json'));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('isn’t JSON'));
  });
});

test.each([
  ['', '', undefined, 'no exposure'],
  ['', '', 'flight.srt', 'from telemetry'],
  ['fast', '100', undefined, 'no exposure yet'],
  ['1/500', '', undefined, '1/500 s, no ISO yet'],
  ['1/500', '100', undefined, '1/500 s, ISO 100'],
])('below a laid picture: shutter “%s”, ISO “%s”, telemetry %s is “%s”', (shutter, iso, telemetry, words) => {
  const row = { path: 'a.png', shutter, iso, telemetry } as unknown as DraftPicture;
  show(<DraftTile row={row} file={CARD[0]} response={{ kind: 'file' }} />);
  expect(screen.getByText(words)).toBeTruthy();
});
