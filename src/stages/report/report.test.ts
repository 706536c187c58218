import { reportSchema, type Report } from '@/core/exports/report';
import type { ReportFigures, ReportRow } from '@/server/reportFigures';
import { reportHtml } from './html';

const report = (more: Partial<Report> = {}): Report =>
  reportSchema.parse({ title: 'Is <it> "true"?', sessions: ['one'], ...more });
const row = (more: Partial<ReportRow> = {}): ReportRow => ({
  filter: 'nd8',
  name: 'ND8 & co',
  nominal: 3,
  stops: { value: 3.12, u95: 0.014 },
  error: { value: 0.12, u95: 0.014 },
  verdict: 'true',
  sentence: '0.12 stop darker than its label.',
  cast: { value: 1.26, u95: 0.04, words: 'slight, cool', a: 0.3, b: -1.2 },
  kept: null,
  corner: { value: -0.05, u95: 0.002, words: 'clean' },
  others: [],
  honest: 'ND8',
  ...more,
});
const figures = (rows = [row()], more: Partial<ReportFigures['sessions'][number]> = {}): ReportFigures => ({
  madeAt: '2026-05-14T09:00:00Z',
  bounds: [1 / 3, 2 / 3],
  missing: 0,
  sessions: [
    {
      id: 'one',
      title: 'Bench',
      measuredAt: '2026-05-14T09:00:00Z',
      generator: 'aurora-glade 0',
      readingId: 7,
      stale: null,
      conditions: ['a camera', '4 takes'],
      kits: [{ name: 'Six', disclosure: 'lent for the review', rows, steps: [], sentences: [] }],
      notes: [{ filters: ['ND64'], message: 'ND64 drowns.', remedy: 'A longer shutter.' }],
      strip: [],
      ...more,
    },
  ],
});
const page = (ask: Partial<Parameters<typeof reportHtml>[0]> = {}) =>
  reportHtml({
    report: report(),
    figures: figures(),
    charts: () => [],
    frozen: null,
    font: 'AAAA',
    links: false,
    ...ask,
  });

test('texts are texts: nothing of them becomes markup, paragraphs stay', () => {
  const html = page({ report: report({ question: 'One <script>alert(1)</script>\n\nTwo & three' }) });
  expect(html).toContain('<h1>Is &lt;it&gt; &quot;true&quot;?</h1>');
  expect(html).toContain('<p>One &lt;script&gt;alert(1)&lt;/script&gt;</p><p>Two &amp; three</p>');
  expect(html).not.toContain('<script');
  expect(html).toContain('ND8 &amp; co');
});

test('figures carry their ±, rounded up; what is missing is a dash, and says so below', () => {
  const html = page();
  expect(html).toContain('3.12 <small>±0.02</small>');
  expect(html).toContain('1.3 <small>±0.1</small>');
  expect(html).not.toContain('Sharpness kept</th>');
  expect(html).toContain('Six: no figure for sharpness of ND8 &amp; co');
  expect(html).toContain('ND64: ND64 drowns. A longer shutter.');
  expect(html).toContain('Six: lent for the review.');
  const unsaid = figures();
  unsaid.sessions[0].kits[0].disclosure = null;
  expect(page({ figures: unsaid })).toContain('how it was obtained isn’t noted');
});

test('figures lead to their readings where the application answers, and nowhere in a file', () => {
  expect(page({ links: true })).toContain('href="/sessions/one/verdict?filter=nd8"');
  expect(page()).not.toMatch(/(?:href|src)="(?!data:)/);
});

test('stale figures, sessions that are gone and frozen versions are told', () => {
  expect(page({ figures: figures([row()], { stale: 'changed' }) })).toContain('from before a change of their session');
  expect(page({ figures: { ...figures(), missing: 2 } })).toContain(
    '2 of the chosen sessions are gone or not measured',
  );
  const frozen = { number: 3, hash: 'ab'.repeat(32), frozenAt: '2026-05-15T10:11:12Z' };
  expect(page({ frozen })).toContain(`Version 3, frozen 2026-05-15 10:11 UTC, SHA-256 ${'ab'.repeat(32)}`);
  expect(page({ report: report({ paper: 'Letter' }) })).toContain('@page{size:Letter;');
});

test('pictures stand with their captions, as texts; a version frozen before there were any shows none', () => {
  const shown = {
    ...figures(),
    pictures: [
      { caption: 'bare <b> ND8', picture: 'data:image/jpeg;base64,AAAA' },
      { caption: '', picture: 'data:image/jpeg;base64,BBBB' },
    ],
  };
  const html = page({ figures: shown });
  expect(html).toContain('<h2>Pictures</h2>');
  expect(html).toContain('<figcaption>bare &lt;b&gt; ND8</figcaption>');
  expect(html.match(/<img src="data:image\/jpeg;base64,(AAAA|BBBB)" alt="[^"]+">/g)).toHaveLength(2);
  expect(page()).not.toContain('<h2>Pictures</h2>');
});

test('what to carry stands as a table with its work and where it falls short; an older version has none', () => {
  const carried = [
    {
      title: 'One filter covers 88 % of the hours',
      works: ['<Falls>: 2 s'],
      rows: [
        { name: 'No filter', kit: '', stops: '0', adds: '40 h', covered: '12 %' },
        { name: 'ND8', kit: 'Six', stops: '3.12 ±0.02', adds: '250 h', covered: '88 %' },
      ],
      sentences: ['sun: 40 h a year'],
    },
  ];
  const html = page({ figures: { ...figures(), carried } });
  expect(html).toContain(
    '<h2>What to carry</h2><h3>One filter covers 88 % of the hours</h3><ul><li>&lt;Falls&gt;: 2 s</li></ul>',
  );
  expect(html).toContain(
    '<tr><th scope="row">ND8</th><td>Six</td><td class="n">3.12 ±0.02</td><td class="n">250 h</td><td class="n">88 %</td></tr>',
  );
  // Heads of numbers stand above them.
  expect(html).toContain('<th scope="col">Kit</th><th scope="col" class="n">Stops</th>');
  expect(html).toContain('<li>sun: 40 h a year</li>');
  for (const none of [page(), page({ figures: { ...figures(), carried: [] } })])
    expect(none).not.toContain('What to carry');
});
