import { describeSession } from '@/simulator/session';
import { parseSession } from '../../session/parse';
import type { Session } from '../../session/schema';
import { smallBench } from '../../testing/worked';
import { missingFor } from './measurable';

const session = (change: (session: Session) => void = () => undefined): Session => {
  const made = parseSession(describeSession(smallBench(), { id: 'kit' }));
  change(made);
  return made;
};

test('a whole session lacks nothing', () => expect(missingFor(session())).toBeNull());

test('pictures come first, then a place, then bare', () => {
  expect(missingFor(session((one) => (one.takes = [])))).toMatchObject({ what: 'pictures', stage: 'footage' });
  expect(missingFor(session((one) => one.takes.forEach((take) => (take.files = []))))?.what).toBe('pictures');
  expect(missingFor(session((one) => (one.patches = [])))).toMatchObject({ what: 'places', stage: 'regions' });
  expect(missingFor(session((one) => (one.takes = one.takes.filter((take) => take.filter !== null))))).toMatchObject({
    what: 'bare',
    step: 'Add bare pictures',
  });
});

test('an ordinary scene needs no patch: it is measured over its whole frame', () => {
  const outdoors = session((one) => {
    one.patches = [];
    one.scenes.forEach((scene) => (scene.kind = 'outdoor'));
  });
  expect(missingFor(outdoors)).toBeNull();
});

test('bare pictures alone may be measured: a camera’s check is made of them', () =>
  expect(missingFor(session((one) => (one.takes = one.takes.filter((take) => take.filter === null))))).toBeNull());
