/** @jest-environment jsdom */
/** A report being written: texts kept as they are typed, versions frozen, links made and taken back. */
import type { ComponentProps } from 'react';
import { act, screen, waitFor } from '@testing-library/react';
import { reportSchema } from '@/core/exports/report';
import { forgetWays, went } from '@/ui/testing/navigation';
import { choose, show } from '@/ui/testing/render';
import { FIRST_WORK } from '../carry/asked';
import { ReportEditor } from './ReportEditor';
import { ReportList } from './ReportList';

let asked: [string, ...unknown[]][];
let answers: Record<string, () => Promise<unknown>>;
const act2 = (what: string, fallback: unknown) => {
  return (...words: unknown[]) => {
    asked.push([what, ...words]);
    return (answers[what] ?? (() => Promise.resolve(fallback)))();
  };
};
jest.mock('@/server/reportActions', () => ({
  keepReportAction: (...words: unknown[]) => act2('keep', { ok: true, id: 'p', revision: 2 })(...words),
  freezeAction: (...words: unknown[]) => act2('freeze', { ok: true, number: 3 })(...words),
  makeLinkAction: (...words: unknown[]) =>
    act2('link', { ok: true, link: { token: 'f'.repeat(32), until: '2026-08-12T09:00:00Z' } })(...words),
  endLinkAction: (...words: unknown[]) => act2('end', { ok: true })(...words),
  newReportAction: (...words: unknown[]) => act2('new', { ok: true, id: 'made', revision: 1 })(...words),
  putReportAwayAction: (...words: unknown[]) => act2('away', { ok: true })(...words),
}));
beforeEach(() => {
  asked = [];
  answers = {};
  forgetWays();
});
const settle = () => act(() => new Promise((done) => setTimeout(done, 650)));
const SESSIONS = [
  { id: 'a', title: 'First sitting' },
  { id: 'b', title: 'Second sitting' },
];
const REPORT = reportSchema.parse({ title: 'Is the set what it says?', sessions: ['a'] });
const draw = (more: Partial<ComponentProps<typeof ReportEditor>> = {}) =>
  show(
    <ReportEditor
      id="p"
      first={REPORT}
      revision={1}
      versions={[{ number: 1, hash: 'abcdef0123456789', frozenAt: '2026-05-14T12:00:00Z' }]}
      sessions={SESSIONS}
      firstLink={null}
      lan={[]}
      {...more}
    />,
  );
const lastKept = () => asked.filter(([what]) => what === 'keep').at(-1)![1] as typeof REPORT;

test('what is carried is named by its works, and taken out again', async () => {
  const carry = [{ works: [{ ...FIRST_WORK, name: 'Filming' }, { ...FIRST_WORK, name: 'Falls' }], from: '', owned: '', most: '' }]; // prettier-ignore
  const { user } = draw({ first: { ...REPORT, carry } });
  await user.click(screen.getByRole('button', { name: 'Take “Filming and Falls” out' }));
  await settle();
  expect(lastKept().carry).toEqual([]);
  expect(screen.queryByText('Filming and Falls')).toBeNull();
});

test('texts, sessions and paper are kept together', async () => {
  const { user } = draw();
  await user.type(screen.getByLabelText('Title'), ' Really');
  await user.click(screen.getByRole('checkbox', { name: 'Second sitting' }));
  await choose(user, /Paper/, 'Letter');
  await settle();
  expect(lastKept()).toMatchObject({ title: 'Is the set what it says? Really', sessions: ['a', 'b'], paper: 'Letter' });
  expect(screen.getByText('Saved')).toBeTruthy();
});

test('the last session stays', () => {
  draw();
  expect(screen.getByRole('checkbox', { name: 'First sitting' })).toHaveProperty('disabled', true);
});

test('freezing keeps first what was typed, and tells the number; a refusal is told', async () => {
  const { user } = draw();
  await user.type(screen.getByLabelText('Title'), '!');
  await user.click(screen.getByRole('button', { name: 'Freeze a version' }));
  await waitFor(() => expect(screen.getByText('Version 3 is frozen.')).toBeTruthy());
  expect(asked.map(([what]) => what)).toEqual(['keep', 'freeze']);
  expect(went.refreshed).toBe(1);
  answers.freeze = () => Promise.resolve({ ok: false, error: 'None of its sessions is measured.' });
  await user.click(screen.getByRole('button', { name: 'Freeze a version' }));
  await waitFor(() => expect(screen.getByText('None of its sessions is measured.')).toBeTruthy());
});

test('a link is made, with the day until which it holds, and ended', async () => {
  const { user } = draw();
  await user.click(screen.getByRole('button', { name: 'Make a link' }));
  const link = await screen.findByRole('link', { name: 'read-only link' });
  expect(link.getAttribute('href')).toBe(`/r/${'f'.repeat(32)}`);
  expect(screen.getByText(/Until 2026-08-12/).textContent).toContain('./glade up --lan');
  await user.click(screen.getByRole('button', { name: 'end it' }));
  await waitFor(() => expect(screen.queryByRole('link', { name: 'read-only link' })).toBeNull());
  expect(asked.map(([what]) => what)).toEqual(['link', 'end']);
});

test('on a network that is let in, its address there is shown; a link that can’t be made is told', async () => {
  const { user } = draw({
    lan: ['http://192.168.1.2:8421'],
    firstLink: { token: 'a'.repeat(32), until: '2026-08-12T09:00:00Z' },
  });
  expect(screen.getByText(`http://192.168.1.2:8421/r/${'a'.repeat(32)}`)).toBeTruthy();
  answers.end = () => Promise.resolve({ ok: false, error: 'The database doesn’t answer.' });
  await user.click(screen.getByRole('button', { name: 'end it' }));
  expect((await screen.findAllByText('The database doesn’t answer.')).length).toBeGreaterThan(0);
  expect(screen.getByRole('link', { name: 'read-only link' })).toBeTruthy();
});

test('a frozen version is shown, and what is taken away is of it', async () => {
  const { user } = draw();
  const page = () => screen.getByTitle('The report').getAttribute('src');
  expect(page()).toBe('/api/reports/p/page');
  await choose(user, 'Shown', 'version 1, 2026-05-14, abcdef01');
  expect(page()).toBe('/api/reports/p/page?version=1');
  expect(screen.getByRole('link', { name: 'PDF' }).getAttribute('href')).toBe('/api/reports/p/pdf?version=1');
  expect(screen.getByRole('link', { name: 'HTML' }).getAttribute('href')).toBe('/api/reports/p/page?version=1&save');
});

describe('all reports', () => {
  const listed = [{ id: 'p', title: 'Is the set what it says?', sessions: 2, changed: '2026-05-14T12:00:00Z' }];

  test('a new one of chosen sessions', async () => {
    const { user } = show(<ReportList reports={listed} sessions={SESSIONS} first="b" />);
    await user.click(screen.getByRole('checkbox', { name: 'First sitting' }));
    await user.click(screen.getByRole('button', { name: 'Begin the report' }));
    expect(asked).toEqual([['new', ['a', 'b']]]);
    await waitFor(() => expect(went.pushed).toEqual(['/reports/made']));
  });

  test('none without a session; a refusal is told', async () => {
    answers.new = () => Promise.reject(new TypeError('Failed to fetch'));
    const { user } = show(<ReportList reports={[]} sessions={SESSIONS} first={null} />);
    const begin = screen.getByRole('button', { name: 'Begin the report' });
    expect(begin).toHaveProperty('disabled', true);
    await user.click(screen.getByRole('checkbox', { name: 'First sitting' }));
    await user.click(begin);
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('No connection to the server'));
  });

  test('put away with a way back', async () => {
    const { user } = show(<ReportList reports={listed} sessions={[]} first={null} />);
    await user.click(screen.getByRole('button', { name: /^Put “Is the set/ }));
    await user.click(await screen.findByRole('button', { name: 'Bring it back' }));
    expect(asked).toEqual([
      ['away', 'p', true],
      ['away', 'p', false],
    ]);
  });
});

test('pictures: captions are typed, their order is changed, one is taken out', async () => {
  const pictures = ['a', 'b', 'c'].map((digit) => ({ sha256: digit.repeat(64), caption: digit }));
  const { user } = draw({ first: { ...REPORT, pictures } });
  await user.type(screen.getByLabelText('Caption of picture 1'), ' first');
  await user.click(screen.getByRole('button', { name: 'Picture 1 down' }));
  await user.click(screen.getByRole('button', { name: 'Take picture 3 out' }));
  await settle();
  expect(lastKept().pictures.map(({ caption }) => caption)).toEqual(['b', 'a first']);
  expect(screen.getByRole('button', { name: 'Picture 1 up' })).toHaveProperty('disabled', true);
  expect(screen.getByRole('button', { name: 'Picture 2 down' })).toHaveProperty('disabled', true);
});
