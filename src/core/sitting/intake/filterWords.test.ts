/** Names as people write them: worked examples, and 300 drawn from a grammar whose truth is what they were drawn from. */
import { seededRandom } from '../../../simulator/random';
import { nominalStops } from '../../session/notation';
import { parseKitShorthand } from '../kits/shorthand';
import { filterInName, kitInNames } from './filterWords';
import { guessFilter, readName } from './names';

const KIT = parseKitShorthand('ND4 ND8 ND16 ND64 ND1000 ND8/PL ND16/PL VND2-5 GND0.9 CPL UV').filters;
const ID = Object.fromEntries(KIT.map(({ id, name }) => [name, id]));

test.each([
  ['ND-8 (2).jpg', 'ND8'],
  ['ND 16 take 2.mov', 'ND16'],
  ['nd16-cpl_0042.mp4', 'ND16/PL'],
  ['CPL + ND8.tif', 'ND8/PL'],
  ['NDPL16.tif', 'ND16/PL'],
  ['d0.9 chart.png', 'ND8'],
  ['density 1,8.png', 'ND64'],
  ['10-stop_clip.mov', 'ND1000'],
  ['6 stops - copy.jpg', 'ND64'],
  ['VND_mark 3.5.mov', 'VND 2–5'],
  ['variable nd at three.mov', 'VND 2–5'],
  ['GND 0.9 soft.jpg', 'GND0.9'],
  ['soft grad nd8.jpg', 'GND0.9'],
  ['Polarizer 45deg.jpg', 'CPL'],
  ['circular polariser_30°.jpg', 'CPL'],
  ['UV filter.jpg', 'UV'],
  ['clip_ND8_0001 Kopie.mp4', 'ND8'],
])('%s is of %s', (name, filter) => expect(guessFilter(name, KIT)).toBe(ID[filter]));

test.each([
  'ohne Filter 1.jpg', 'sans filtre.tif', 'sin_filtro.mov', 'senza filtro (3).png', 'w-o filter.jpg', 'NO FILTER.MOV', 'no_nd.mov', 'without ND8.mov', 'unfiltered_2.jpg', 'zonder.tif', 'Bare take 2.mov', 'baseline.mp4', 'utan.jpg', 'bare-bracket -2EV.jpg', 'bracket 3 stops.jpg',
])('%s is bare', (name) => expect(guessFilter(name, KIT)).toBeNull()); // prettier-ignore

test.each([
  'DSC_0842.jpg', 'IMG_20260514_0016.jpg', 'clip 16.mov', 'ND32 chart.jpg', 'weir.mov', 'AND8.jpg', 'standard4.jpg', 'plan 2.jpg', 'D850-0012.jpg', 'chart +2EV.jpg', 'chart_-2ev.jpg', 'ND9999999.jpg', 'open_gate_3.2k_v2_polka.mov',
])('%s says nothing of this kit, or something else', (name) => expect(guessFilter(name, KIT) ?? undefined).toBeUndefined()); // prettier-ignore

test.each([
  ['vnd_mark3.jpg', 3],
  ['VND 2-5 m4.5.jpg', 4.5],
  ['vnd 3.mov', 3],
  ['variable nd, mark four.jpg', 4],
  ['VND2-5.mov', null],
  ['nd8 mark.mov', null],
])('%s was at mark %s', (name, mark) => expect(readName(name, KIT).mark).toBe(mark));

test('two variable filters, and a name that tells no range: it is asked', () => {
  const two = parseKitShorthand('VND2-5 VND6-9').filters;
  expect(guessFilter('VND mark 3.jpg', two)).toBeUndefined();
  expect(guessFilter('VND 6-9 mark 3.jpg', two)).toBe('vnd-6-9');
});

test('two of one label are told apart by their names', () => {
  const two = parseKitShorthand('ND8 ND8').filters;
  expect(guessFilter('x nd8-2 1.jpg', two)).toBe('nd8-2');
  expect(guessFilter('x nd8.jpg', two)).toBe('nd8');
});

describe('filters that no number tells apart', () => {
  const effects = parseKitShorthand('ND8 UV mist 1/4 mist 1/8 yellow red IR-cut').filters;
  test.each([
    ['mist 1-4 chart.jpg', 'mist-1-4'],
    ['mist_1_8_2.tif', 'mist-1-8'],
    ['Diffusion 1-8.mov', 'mist-1-8'],
    ['yellow filter.jpg', 'yellow'],
    ['red filter (2).jpg', 'red'],
    ['uv ir cut.jpg', 'ir-cut'],
    ['IR-cut take 2.jpg', 'ir-cut'],
    ['uv.jpg', 'uv'],
    ['mist 1-2.jpg', undefined],
    ['diffusion.jpg', undefined],
    ['green filter.jpg', undefined],
    ['morning mist 0042.jpg', undefined],
  ])('%s is of %s', (name, filter) => expect(guessFilter(name, effects)).toBe(filter));

  test('names spell them out for a kit', () => {
    expect(kitInNames(['nd8.jpg', 'mist 1-4.jpg', 'mist 1-8.jpg', 'mist 1-4 (2).jpg', 'yellow filter.jpg'])).toBe(
      'ND8 mist1/4 mist1/8 yellow',
    );
  });
});

describe('drawn names', () => {
  const ND = { ND4: [4, 2, '0.6'], ND8: [8, 3, '0.9'], ND16: [16, 4, '1.2'], ND64: [64, 6, '1.8'] } as const;
  const BARE = ['bare', 'no filter', 'nofilter', 'without', 'ohne', 'ohne Filter', 'sans filtre', 'sin filtro', 'senza filtro', 'baseline', 'unfiltered', 'w/o filter', 'zonder']; // prettier-ignore
  const POLARIZERS = ['CPL', 'PL', 'C-PL', 'Pol', 'polarizer', 'polariser', 'Polfilter', 'circular polarizer'];

  /** A name and the filter that it was drawn for; `null` for bare. */
  function draw(seed: string): { name: string; filter: string | null } {
    const random = seededRandom(seed);
    const pick = <T>(list: readonly T[]) => list[Math.floor(random.uniform() * list.length)];
    const gap = () => pick(['_', '-', ' ', ' - ', '__']);
    const nd = pick(Object.keys(ND) as (keyof typeof ND)[]);
    const [factor, stops, density] = ND[nd];
    const glue = () => pick(['', '-', ' ', '_']);
    const kinds: (() => [string, string | null])[] = [
      () => [`ND${glue()}${factor}`, nd],
      () => [`${stops}${pick(['-', ' ', ''])}${pick(['stop', 'stops', 'st'])}`, nd],
      () => [`${pick(['D', 'OD', 'density '])}${density}`, nd],
      () => [`ND${glue()}${density}`, nd],
      () => {
        const one = pick([8, 16]);
        const with1 = `ND${glue()}${one}${pick(['', '-', '_', ' ', '+', ' + ', '/'])}${pick(['PL', 'CPL', 'pol'])}`;
        return [pick([with1, `CPL${pick(['-', '_', ' + '])}ND${one}`, `NDPL${one}`]), `ND${one}/PL`];
      },
      () => [pick(POLARIZERS), 'CPL'],
      () => [`${pick(['VND', 'V-ND', 'variable ND', 'var nd'])}${pick(['', ' 2-5'])}${gap()}mark${glue()}${pick(['2', '3.5', 'four'])}`, 'VND 2–5'], // prettier-ignore
      () => [pick(['GND0.9', 'GND 0.9 soft', 'soft grad 0.9', 'grad nd8 hard', 'G-ND8']), 'GND0.9'],
      () => [pick(BARE), null],
    ];
    const [words, filter] = pick(kinds)();
    const before = pick(['', 'chart', 'flat', 'weir', 'A001', 'clip', 'DSC_0042', '2026-05-14', 'IMG']);
    const after = pick(['', '1', '002', 'take 2', 'take3', 't2', 'final', '45deg']);
    const cased = pick([words, words.toUpperCase(), words.toLowerCase()]);
    const name = [before, cased, after]
      .filter(Boolean)
      .join(gap())
      .replaceAll('/', pick(['+', '-']));
    return { name: `${name}${pick(['', '', '', ' (2)', ' copy'])}.${pick(['jpg', 'MOV', 'dng', 'tif'])}`, filter };
  }
  const all = Array.from({ length: 300 }, (_, n) => draw(`names/${n}`));

  test('at least 95 % are right without a question, and none is quietly wrong', () => {
    const wrong: string[] = [];
    const asked: string[] = [];
    for (const { name, filter } of all) {
      const found = guessFilter(name, KIT);
      const expected = filter === null ? null : ID[filter];
      if (found === undefined) asked.push(name);
      else if (found !== expected) wrong.push(`${name} → ${found}, of ${filter}`);
    }
    expect(wrong).toEqual([]);
    expect(1 - asked.length / all.length).toBeGreaterThanOrEqual(0.95);
  });

  test('the kit of a card is what its names say, in nine of ten cards', () => {
    let right = 0;
    for (let card = 0; card < 50; card++) {
      const names = Array.from({ length: 12 }, (_, n) => draw(`card ${card}/${n}`));
      const told = parseKitShorthand(kitInNames(names.map((one) => one.name))).filters;
      // A variable filter whose range no name tells can't be proposed.
      const ranged = names.some(({ name, filter }) => filter === 'VND 2–5' && /2-5/.test(name));
      const expected = new Set(
        names.flatMap(({ filter }) => (filter === null || (filter === 'VND 2–5' && !ranged) ? [] : [filter])),
      );
      const strengthOf = ({ kind, nominal }: (typeof KIT)[number]) =>
        KIT.find(
          (one) =>
            one.kind === kind && Math.abs((nominalStops(one.nominal) ?? 0) - (nominalStops(nominal) ?? 0)) < 0.05,
        )?.name;
      const found = new Set(told.map(strengthOf));
      if (told.length === expected.size && [...expected].every((one) => found.has(one))) right++;
    }
    expect(right).toBeGreaterThanOrEqual(45);
  });
});

test('nothing said is told from a filter, and a strength from a kind alone', () => {
  expect(filterInName('DSC_0001.jpg')).toBeNull();
  expect(filterInName('vnd.jpg')).toMatchObject({ kind: 'variable-nd', filter: null, mark: null });
  expect(kitInNames(['nd8.jpg', 'd0.9.jpg', '3 stops.jpg', 'x.jpg'])).toBe('ND8');
});
