/** Reports as pages and PDF: the live one with the figures of now, a frozen one as it was. */
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as echarts from 'echarts';
import pLimit from 'p-limit';
import { fenced, fenceStands } from '@/media/fence';
import { reportSchema, type Report } from '@/core/exports/report';
import { reportHtml, type FrozenMark } from '@/stages/report/html';
import { readReport, readVersion } from '@/store';
import { castsOption } from '@/ui/charts/castsOption';
import { PAPER } from '@/ui/charts/chartParts';
import { labelsOption, stepsOption } from '@/ui/charts/options';
import { RequestError } from './http';
import { reportFigures, type ReportFigures, type ReportKit } from './reportFigures';

/** The page's type goes with it. */
async function font(): Promise<string> {
  const path = join(
    process.cwd(),
    'node_modules/@fontsource-variable/archivo/files/archivo-latin-standard-normal.woff2',
  );
  return (await readFile(path)).toString('base64');
}

const SIZE = { width: 430, height: 270 };
const CASTS_HEIGHT = 400;

function svgOf(option: echarts.EChartsCoreOption, title: string, height = SIZE.height): string {
  const chart = echarts.init(null, null, { renderer: 'svg', ssr: true, width: SIZE.width, height });
  try {
    chart.setOption(option);
    return `<figure role="img" aria-label="${title}">${chart.renderToSVGString()}<figcaption>${title}</figcaption></figure>`;
  } finally {
    chart.dispose();
  }
}

/** Charts of a kit on paper. */
function chartsOf(bounds: readonly number[]): (kit: ReportKit) => string[] {
  return ({ name, rows, steps }) => {
    const labelled = rows.flatMap((row) =>
      row.error ? [{ name: row.name, error: row.error.value, u95: row.error.u95, off: row.verdict === 'off' }] : [],
    );
    const casts = rows.flatMap((row) =>
      row.cast ? [{ name: row.name, a: row.cast.a, b: row.cast.b, u95: row.cast.u95ab }] : [],
    );
    return [
      ...(labelled.length > 0
        ? [svgOf(labelsOption(labelled, bounds, PAPER), 'Found less labelled; dashed are the bounds of the words')]
        : []),
      ...(steps.length > 0
        ? [
            svgOf(
              stepsOption(
                steps.map((one) => ({
                  name: `${one.from}\n${one.to}`,
                  labelled: one.labelled,
                  found: one.found,
                  u95: one.u95,
                  odd: one.state !== 'even' && one.state !== 'unsure',
                })),
                PAPER,
              ),
              'Steps between neighbors; frames are what is labelled',
            ),
          ]
        : []),
      ...(casts.length > 0
        ? [
            svgOf(
              castsOption([{ name, rows: casts }], PAPER, { ...SIZE, height: CASTS_HEIGHT }),
              'Casts in CIE a*b* at L* 50, a halo is the ±; inside the solid ring an eye hardly sees them',
              CASTS_HEIGHT,
            ),
          ]
        : []),
    ];
  };
}

export interface FrozenReport {
  report: Report;
  figures: ReportFigures;
}

/** The page of a report, live or of a frozen version. Throws RequestError. */
export async function reportPage(
  id: string,
  version: number | null,
  links: boolean,
): Promise<{ html: string; report: Report }> {
  if (version !== null) {
    const found = await readVersion(id, version);
    if (!found) throw new RequestError(404, 'There is no such version of this report.');
    const { report, figures } = found.document as unknown as FrozenReport;
    const frozen: FrozenMark = { number: found.number, hash: found.hash, frozenAt: found.frozenAt.toISOString() };
    const parsed = reportSchema.parse(report);
    return {
      html: reportHtml({
        report: parsed,
        figures,
        charts: chartsOf(figures.bounds),
        font: await font(),
        frozen,
        links,
      }),
      report: parsed,
    };
  }
  const found = await readReport(id);
  if (!found) throw new RequestError(404, 'There is no such report.');
  const figures = await reportFigures(found.item);
  return {
    html: reportHtml({
      report: found.item,
      figures,
      charts: chartsOf(figures.bounds),
      font: await font(),
      frozen: null,
      links,
    }),
    report: found.item,
  };
}

const PDF_SECONDS = 60;

/** One at a time: each takes a browser's memory. */
const oneByOne = pLimit(1);
/** Where the page lies for the browser that prints it. */
const INSIDE = '/scratch';

/** A page as PDF, printed by Chromium without a window and, where a fence can be built, without a network. Throws RequestError where that isn't there. */
export function pdfOf(html: string): Promise<Buffer> {
  return oneByOne(async () => {
    const folder = await mkdtemp(join(tmpdir(), 'glade-pdf-'));
    try {
      const isFenced = await fenceStands(true);
      const at = (name: string) => join(isFenced ? INSIDE : folder, name);
      await writeFile(join(folder, 'report.html'), html);
      const words = [
        process.env.GLADE_CHROMIUM ?? 'chromium',
        '--headless',
        // Its own sandbox isn't to be had for root; the fence stands in for it.
        '--no-sandbox',
        '--disable-gpu',
        '--no-pdf-header-footer',
        '--disable-background-networking',
        `--user-data-dir=${at('profile')}`,
        `--print-to-pdf=${at('report.pdf')}`,
        `file://${at('report.html')}`,
      ];
      const etc = [['/etc/chromium.d', '/etc/chromium.d']] as const;
      const reads = existsSync(etc[0][0]) ? etc : [];
      await print(isFenced ? fenced(words, { reads, work: INSIDE, writes: folder, proc: true }) : words);
      return await readFile(join(folder, 'report.pdf'));
    } finally {
      await rm(folder, { recursive: true, force: true, maxRetries: 3 });
    }
  });
}

function print([program, ...words]: string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(program, words, { stdio: 'ignore' });
    const timer = setTimeout(() => child.kill('SIGKILL'), 1000 * PDF_SECONDS);
    child.on('error', () => {
      clearTimeout(timer);
      reject(
        new RequestError(
          422,
          'Chromium isn’t installed, which makes the PDF: open the page and print it to a PDF from your browser.',
        ),
      );
    });
    child.on('close', (code) => {
      clearTimeout(timer);
      if (code === 0) resolve();
      else
        reject(
          new RequestError(422, 'The PDF could not be made: open the page and print it to a PDF from your browser.'),
        );
    });
  });
}
