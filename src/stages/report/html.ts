/** A report as one self-contained page: texts, figures, charts; nothing is fetched for it. */
import { HOW_TO_REPEAT, METHOD_IN_SHORT, type Report } from '@/core/exports/report';
import { plusMinus } from '@/ui/format';
import type { ReportFigures, ReportKit, ReportRow, ReportSession } from '@/server/reportFigures';

export interface FrozenMark {
  number: number;
  hash: string;
  frozenAt: string;
}

export interface HtmlAsk {
  report: Report;
  figures: ReportFigures;
  /** SVG of the charts of a kit. */
  charts: (kit: ReportKit) => string[];
  frozen: FrozenMark | null;
  /** The page's type as WOFF2, base64: it must look alike without the application. */
  font: string;
  /** Figures lead to their readings; only where the application answers. */
  links: boolean;
}

const escape = (text: string) =>
  text.replace(/[&<>"']/g, (char) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' })[char]!);
/** Texts keep their paragraphs; nothing else of them is markup. */
const paragraphs = (text: string) =>
  text
    .trim()
    .split(/\n{2,}/)
    .filter(Boolean)
    .map((part) => `<p>${escape(part).replace(/\n/g, '<br>')}</p>`)
    .join('');
const number = (value: number, decimals = 2) => value.toFixed(decimals).replace('-', '−');
const plus = (value: number, decimals = 2) => (value > 0 ? '+' : '') + number(value, decimals);
const pm = (u95: number, decimals = 2) => `<small>${plusMinus(u95, decimals)}</small>`;

export function reportHtml(ask: HtmlAsk): string {
  const { report, figures, frozen } = ask;
  const date = (frozen?.frozenAt ?? figures.madeAt).slice(0, 10);
  const mark = frozen
    ? `Version ${frozen.number}, frozen ${escape(frozen.frozenAt.slice(0, 16).replace('T', ' '))} UTC, SHA-256 ${escape(frozen.hash)}`
    : `As measured up to ${escape(date)}; figures follow their measurements until a version is frozen`;
  const told = disclosures(figures);
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<link rel="icon" href="data:,"><title>${escape(report.title)}</title><style>${css(report.paper, ask.font)}</style></head><body><main>
<header><h1>${escape(report.title)}</h1><p class="mark">${mark}</p></header>
${section('The question', paragraphs(report.question))}
${section('Disclosure', paragraphs(report.disclosure) + list(told))}
${figures.missing > 0 ? `<p class="warn">${figures.missing} of the chosen sessions ${figures.missing === 1 ? 'is' : 'are'} gone or not measured; nothing of it is shown.</p>` : ''}
${figures.sessions.map((one) => sessionHtml(one, ask)).join('\n')}
${carriedHtml(figures)}
${picturesHtml(figures)}
${section('What I make of it', paragraphs(report.findings))}
${section('Conditions', paragraphs(report.conditions) + figures.sessions.map((one) => `<p><b>${escape(one.title)}:</b> ${escape(one.conditions.join('; '))}.</p>`).join(''))}
${section('Method', METHOD_IN_SHORT.map((text) => `<p>${escape(text)}</p>`).join('') + paragraphs(report.method))}
${section('What was not measured, and why', paragraphs(report.limits) + limitsOf(figures))}
${section('How to repeat it', `<ol>${HOW_TO_REPEAT.map((text) => `<li>${escape(text)}</li>`).join('')}</ol>`)}
<footer>Measured with Aurora Glade. Figures are given with their expanded uncertainty at 95 % coverage. ${figures.sessions.map((one) => `“${escape(one.title)}”: reading ${one.readingId}, ${escape(one.generator)}`).join('; ')}.</footer>
</main></body></html>`;
}

const section = (title: string, content: string) => (content ? `<section><h2>${title}</h2>${content}</section>` : '');
const list = (items: readonly string[]) =>
  items.length > 0 ? `<ul>${items.map((one) => `<li>${escape(one)}</li>`).join('')}</ul>` : '';

function disclosures({ sessions }: ReportFigures): string[] {
  const lines = sessions.flatMap(({ kits }) =>
    kits.map(({ name, disclosure }) => `${name}: ${disclosure ?? 'how it was obtained isn’t noted'}.`),
  );
  return [...new Set(lines)];
}

function sessionHtml(one: ReportSession, ask: HtmlAsk): string {
  const stale =
    one.stale === null
      ? ''
      : `<p class="warn">These figures are ${one.stale === 'changed' ? 'from before a change of their session' : 'of an older version of the program'}; they stand here as they were measured.</p>`;
  const strip =
    one.strip.length > 1
      ? `<div class="strip">${one.strip.map(({ name, picture }) => `<figure><img src="${picture}" alt="${escape(name)}" width="300" height="200"><figcaption>${escape(name)}</figcaption></figure>`).join('')}</div><p class="mark">The middle of the first scene, as shot: longer exposures have made up for most of what filters take.</p>`
      : '';
  return `<section><h2>${escape(one.title)}</h2>${stale}${one.kits.map((kit) => kitHtml(kit, one, ask)).join('')}${strip}</section>`;
}

/** Columns of numbers, whose heads stand above them. */
const NUMBERS: ReadonlySet<string> = new Set([
  ...['Label', 'Found, stops', 'Error', 'Cast ΔE00', 'Sharpness kept', 'Darkest corner'],
  ...['Stops', 'Adds, a year', 'Covered so far'],
]);
const headRow = (names: readonly string[]) =>
  `<thead><tr>${names.map((one) => `<th scope="col"${NUMBERS.has(one) ? ' class="n"' : ''}>${one}</th>`).join('')}</tr></thead>`;

function kitHtml(kit: ReportKit, session: ReportSession, { charts, links }: HtmlAsk): string {
  const any = (pick: (row: ReportRow) => unknown) => kit.rows.some((row) => pick(row) !== null);
  const [sharp, corners] = [any((row) => row.kept), any((row) => row.corner)];
  const head = [
    'Filter',
    'Label',
    'Found, stops',
    'Error',
    'Strength',
    'Cast ΔE00',
    'Tone',
    ...(sharp ? ['Sharpness kept'] : []),
    ...(corners ? ['Darkest corner'] : []),
    'Honest label',
  ];
  const linked = (row: ReportRow, text: string) =>
    links
      ? `<a href="/sessions/${encodeURIComponent(session.id)}/verdict?filter=${encodeURIComponent(row.filter)}" target="_top">${text}</a>`
      : text;
  const dash = '<td class="n">–</td>';
  const rows = kit.rows.map(
    (row) => `<tr><th scope="row">${linked(row, escape(row.name))}</th>
<td class="n">${row.nominal === null ? '–' : number(row.nominal)}</td>
${row.stops ? `<td class="n">${linked(row, `${number(row.stops.value)} ${pm(row.stops.u95)}`)}</td>` : dash}
<td class="n">${row.error ? plus(row.error.value) : '–'}</td><td>${escape(row.verdict)}</td>
${row.cast ? `<td class="n">${linked(row, `${number(row.cast.value, 1)} ${pm(row.cast.u95, 1)}`)}</td><td>${escape(row.cast.words)}</td>` : `${dash}<td>–</td>`}
${sharp ? (row.kept ? `<td class="n">${linked(row, `${number(100 * row.kept.value, 0)} % ${pm(100 * row.kept.u95, 0)}`)}</td>` : dash) : ''}
${corners ? (row.corner ? `<td class="n">${linked(row, `${number(row.corner.value)} ${pm(row.corner.u95)}`)}</td>` : dash) : ''}
<td>${row.honest === null ? '–' : escape(row.honest)}</td></tr>`,
  );
  const steps = kit.steps.filter((one) => one.state !== 'even');
  const stepWords: Record<string, string> = {
    merged: 'are nearly the same filter',
    gap: 'leave a gap',
    reversed: 'stand in the wrong order',
    unsure: 'are a step of which the ± allows no word',
  };
  const sentences = [
    ...kit.rows.map(
      (row) => `${row.name}: ${row.sentence}${row.others.length > 0 ? ` It ${row.others.join('; ')}.` : ''}`,
    ),
    ...steps.map(
      (one) =>
        `${one.from} and ${one.to} ${stepWords[one.state]}: ${number(one.found)} ± ${number(one.u95)} stop apart, labelled ${number(one.labelled)}.`,
    ),
    ...kit.sentences,
  ];
  return `<h3>${escape(kit.name)}</h3><div class="wide"><table>${headRow(head)}<tbody>${rows.join('')}</tbody></table></div>
${list(sentences)}<div class="charts">${charts(kit).join('')}</div>`;
}

function carriedHtml({ carried = [] }: ReportFigures): string {
  const parts = carried.map(({ title, works, rows, sentences }) => {
    const cells = rows.map(
      ({ name, kit, stops, adds, covered }) =>
        `<tr><th scope="row">${escape(name)}</th><td>${escape(kit)}</td><td class="n">${escape(stops)}</td><td class="n">${escape(adds)}</td><td class="n">${escape(covered)}</td></tr>`,
    );
    const head = ['Filter', 'Kit', 'Stops', 'Adds, a year', 'Covered so far'];
    return `<h3>${escape(title)}</h3>${list(works)}<div class="wide"><table>${headRow(head)}<tbody>${cells.join('')}</tbody></table></div>${list(sentences)}`;
  });
  const how =
    '<p class="mark">Hours of light a year in which one works; the light is that of a day by the sun’s height, good to half a stop or so. Strengths are the measured ones.</p>';
  return section('What to carry', parts.length > 0 ? parts.join('') + how : '');
}

function picturesHtml({ pictures = [] }: ReportFigures): string {
  const figures = pictures.map(
    ({ caption, picture }) =>
      `<figure><img src="${picture}" alt="${escape(caption || 'A view of the pictures compared')}">${caption ? `<figcaption>${escape(caption)}</figcaption>` : ''}</figure>`,
  );
  return section('Pictures', figures.length > 0 ? `<div class="pictures">${figures.join('')}</div>` : '');
}

function limitsOf({ sessions }: ReportFigures): string {
  const lines = sessions.flatMap(({ notes, kits }) => [
    ...notes.map(
      ({ filters, message, remedy }) =>
        `${filters.length > 0 ? `${[...new Set(filters)].join(', ')}: ` : ''}${message}${remedy ? ` ${remedy}` : ''}`,
    ),
    ...kits.flatMap((kit) => {
      const without = (what: string, needs: string, pick: (row: ReportRow) => unknown) => {
        const names = kit.rows.filter((row) => pick(row) === null).map((row) => row.name);
        return names.length > 0
          ? [
              `${kit.name}: no figure for ${what} of ${names.join(', ')}; either no ${needs} was shot, or a note above says why.`,
            ]
          : [];
      };
      return [
        ...without('sharpness', 'edge', (row) => row.kept),
        ...without('corners', 'even field', (row) => row.corner),
      ];
    }),
  ]);
  return list([...new Set(lines)]);
}

/** Paper white; prints on A4 or Letter. */
function css(paper: 'A4' | 'Letter', font: string): string {
  return `@font-face{font-family:"Archivo Variable";font-weight:100 900;font-stretch:62% 125%;src:url(data:font/woff2;base64,${font}) format("woff2")}@page{size:${paper};margin:16mm 15mm}*{box-sizing:border-box}
body{margin:0;background:#fff;color:#1d1d1d;font:15px/1.5 "Archivo Variable",Archivo,"Liberation Sans","DejaVu Sans",system-ui,sans-serif;font-variant-numeric:tabular-nums}
main{max-width:900px;margin:0 auto;padding:34px 28px 60px}h1{font-size:31px;line-height:1.2;margin:0 0 6px}
h2{font-size:20px;margin:30px 0 8px;break-after:avoid}h3{font-size:16px;margin:18px 0 8px;break-after:avoid}p{margin:0 0 10px;max-width:70ch}
ul,ol{margin:6px 0 12px;padding-left:20px;max-width:76ch}li{margin:3px 0}.mark,footer,figcaption{color:#565656;font-size:12.5px;overflow-wrap:anywhere}
.warn{border-left:4px solid #8a5200;padding:6px 12px;background:#f5efe6}a{color:#0a5236}.wide{overflow-x:auto}
table{border-collapse:collapse;width:100%;font-size:13.5px}th,td{text-align:left;padding:6px 8px;border-bottom:1px solid #cfcfcf;vertical-align:baseline}
thead th{color:#565656;font-weight:500;font-size:12px;vertical-align:bottom}td.n,thead th.n{text-align:right;white-space:nowrap}small{color:#565656}
.charts{display:grid;grid-template-columns:repeat(auto-fit,minmax(380px,1fr));gap:14px;margin:12px 0}.charts figure,.strip figure{margin:0;break-inside:avoid}.charts svg{width:100%;height:auto;display:block}
.strip{display:grid;grid-template-columns:repeat(auto-fill,minmax(150px,1fr));gap:8px;margin:14px 0 6px}.strip img{width:100%;height:auto;display:block}
.pictures figure{margin:0}.pictures{display:grid;gap:14px;margin:14px 0 6px}.pictures img{width:100%;height:auto;display:block;background:#777}
footer{border-top:1px solid #cfcfcf;margin-top:34px;padding-top:10px}
@media print{main{max-width:none;padding:0}a{color:inherit;text-decoration:none}.charts{grid-template-columns:1fr 1fr}tr{break-inside:avoid}}`;
}
