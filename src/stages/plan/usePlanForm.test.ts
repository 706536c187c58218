import { parseSession } from '@/core/session/parse';
import { sessionOfPlan } from './sessionOfPlan';
import { EMPTY_FORM, readForm } from './usePlanForm';

test('the form as it opens is a plan', () => {
  const { plan, problems } = readForm(EMPTY_FORM);
  expect(problems).toEqual([]);
  expect(plan!.takes[0]).toMatchObject({ filter: null, scene: 'chart' });
});

test.each([
  [{ shorthand: '' }, 'Type the kit'],
  [{ shorthand: 'ND4 twelve' }, 'isn’t a strength I know'],
  [{ light: 'bright' }, 'Write the light as'],
  [{ fastest: 'quick' }, 'Fastest shutter'],
  [{ fastest: '2', slowest: '1' }, 'slower than the slowest'],
  [{ highestIso: '50' }, 'below the base ISO'],
  [{ fNumber: '-2' }, 'f-number is a number above 0'],
  [{ scenes: [] }, 'at least one scene'],
  [{ repeats: '0' }, 'repeats'],
  [{ repeats: 'many' }, 'repeats'],
])('%j is asked about in a sentence, and nothing is planned', (part, words) => {
  const { plan, problems } = readForm({ ...EMPTY_FORM, ...part });
  expect(plan).toBeNull();
  expect(problems.join(' ')).toContain(words);
});

test('clips are never exposed longer than a frame; a fixed aperture stays', () => {
  const { plan } = readForm({
    ...EMPTY_FORM,
    target: 'clips',
    aperture: 'fixed',
    light: '200 lx',
    highestIso: '12800',
  });
  for (const { setting } of plan!.takes) {
    expect(setting.shutterSeconds).toBeLessThanOrEqual(1 / 25 + 1e-9);
    expect(setting.fNumber).toBe(2.8);
  }
});

test('what is kept is a session that reads back, with the aperture as said', () => {
  const { request, plan } = readForm({ ...EMPTY_FORM, aperture: 'fixed' });
  const session = sessionOfPlan(request!, plan!);
  expect(parseSession(JSON.parse(JSON.stringify(session)))).toEqual(session);
  expect(session.rig.aperture).toBe('fixed');
});
