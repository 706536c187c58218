/** Two people at one session: worked examples, and a property over many drawn ones. */
import { seededRandom } from '../../simulator/random';
import { applyEdits, differences, isSame, valueAt } from './edits';

const SESSION = {
  title: 'Weir',
  rig: { camera: 'A', response: { kind: 'gamma', gamma: 2.2 } },
  kits: [
    {
      id: 'kit',
      filters: [
        { id: 'nd8', nominal: { ndFactor: 8 } },
        { id: 'nd64', nominal: { ndFactor: 64 } },
      ],
    },
  ],
  scenes: [{ id: 'chart', kind: 'chart' }],
  takes: [
    { id: 'bare', filter: null, scene: 'chart', files: ['a.png'], exposure: { shutter: '1/60' } },
    { id: 'nd8', filter: 'nd8', scene: 'chart', files: ['b.png', 'c.png'], exposure: { shutter: '1/8', iso: 100 } },
  ],
  patches: [{ id: 'gray', scene: 'chart', role: 'neutral', rect: { x: 0.1, y: 0.1, width: 0.2, height: 0.2 } }],
};
type Session = typeof SESSION;
const changed = (change: (session: Session) => void): Session => {
  const copy = structuredClone(SESSION);
  change(copy);
  return copy;
};

test('two fields of one take are changed at a time: both stand', () => {
  const mine = changed((s) => void (s.takes[1].exposure.shutter = '1/4'));
  const theirs = changed((s) => void (s.takes[1].exposure.iso = 200));
  const { document, refused } = applyEdits(theirs, differences(SESSION, mine));
  expect(refused).toEqual([]);
  expect(valueAt(document, ['takes', 'nd8', 'exposure'])).toEqual({ shutter: '1/4', iso: 200 });
  expect(theirs.takes[1].exposure.shutter).toBe('1/8');
});

test('one field changed by both: the second is refused, and told what stands', () => {
  const mine = changed((s) => void (s.title = 'Mine'));
  const theirs = changed((s) => void (s.title = 'Theirs'));
  const { document, refused } = applyEdits(theirs, differences(SESSION, mine));
  expect(document).toBe(theirs);
  expect(refused).toEqual([{ at: ['title'], stands: 'Theirs', wanted: 'Mine' }]);
});

test('the same change made twice is taken once', () => {
  const mine = changed((s) => void (s.title = 'Mine'));
  expect(applyEdits(mine, differences(SESSION, mine))).toEqual({ document: mine, refused: [] });
});

test('rectangles and responses are changed as a whole', () => {
  const wider = changed((s) => void (s.patches[0].rect.width = 0.3));
  expect(differences(SESSION, wider)).toEqual([
    { at: ['patches', 'gray', 'rect'], seen: [SESSION.patches[0].rect], to: wider.patches[0].rect },
  ]);
  const lower = changed((s) => void (s.patches[0].rect.y = 0.5));
  expect(applyEdits(lower, differences(SESSION, wider)).refused).toHaveLength(1);
});

test('entries come and go beside each other, and keep their place', () => {
  const patch = (id: string) => ({ ...SESSION.patches[0], id });
  const mine = changed((s) => void s.patches.unshift(patch('sky')));
  const theirs = changed((s) => void s.patches.push(patch('edge')));
  const both = applyEdits(theirs, differences(SESSION, mine)).document as Session;
  expect(both.patches.map((one) => one.id)).toEqual(['sky', 'gray', 'edge']);
  const undone = applyEdits(both, differences(theirs, SESSION)).document as Session;
  expect(undone.patches.map((one) => one.id)).toEqual(['sky', 'gray']);
});

test('a file taken from a take leaves what was laid on it meanwhile', () => {
  const before = changed((s) => void s.takes[1].files.pop());
  const later = changed((s) => void s.takes[1].files.push('d.png'));
  const { document, refused } = applyEdits(later, differences(SESSION, before));
  expect(refused).toEqual([]);
  expect(valueAt(document, ['takes', 'nd8', 'files'])).toEqual(['b.png', 'd.png']);
});

test('a field of something that is gone is refused', () => {
  const mine = changed((s) => void (s.takes[1].exposure.iso = 400));
  const theirs = changed((s) => void s.takes.pop());
  expect(applyEdits(theirs, differences(SESSION, mine)).refused).toHaveLength(1);
});

test('what a field lies in is made, and goes when nothing is left in it', () => {
  const at = ['takes', 'bare', 'setting', 'ringDegrees'];
  const noted = applyEdits(SESSION, [{ at, seen: [undefined], to: 30 }]);
  expect(valueAt(noted.document, at)).toBe(30);
  const forgotten = applyEdits(noted.document, [{ at, seen: [30], to: undefined }]);
  expect(isSame(forgotten.document, SESSION)).toBe(true);
});

test('a key that every object has from its prototype is nothing that stands there', () => {
  expect(valueAt(SESSION, ['constructor'])).toBeUndefined();
  expect(valueAt(SESSION, ['takes', 'length'])).toBeUndefined();
  const polluted = applyEdits(SESSION, [{ at: ['__proto__', 'x'], seen: [undefined], to: 1 }]).document;
  expect(({} as Record<string, unknown>).x).toBeUndefined();
  expect(Object.getPrototypeOf(polluted)).toBe(Object.prototype);
});

test('differences laid on what they began with give what they lead to, and turned round lead back', () => {
  for (let n = 0; n < 300; n++) {
    const drawn = seededRandom(`edits ${n}`);
    const random = () => drawn.uniform();
    const draw = (session: Session): Session => {
      const next = structuredClone(session);
      for (let k = 0; k < 4; k++) {
        const pick = Math.floor(random() * 7);
        if (pick === 0) next.title += '!';
        if (pick === 1) next.takes.splice(Math.floor(random() * 3), 0, { ...SESSION.takes[0], id: `new ${random()}` });
        if (pick === 2) next.takes.splice(Math.floor(random() * next.takes.length), 1);
        if (pick === 3 && next.takes[0]) next.takes[0].exposure = { shutter: `1/${Math.ceil(random() * 99)}` };
        if (pick === 4) next.patches[0].rect.x = random() / 2;
        if (pick === 5) next.kits[0].filters.reverse();
        if (pick === 6) delete (next as Partial<Session>).rig;
        if (pick === 6) next.rig = { camera: 'B', response: { kind: 'gamma', gamma: 1 + random() } };
      }
      return next;
    };
    const before = draw(SESSION);
    const after = draw(before);
    expect(applyEdits(before, differences(before, after))).toEqual({ document: after, refused: [] });
    expect(applyEdits(after, differences(after, before))).toEqual({ document: before, refused: [] });
  }
});
