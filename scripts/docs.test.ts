/** References to documents, and to their sections, lead somewhere. */
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';

const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard'], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => /\.(ts|tsx|mjs|cjs|sh|md)$/.test(file) && existsSync(file));

/** Numbered sections of a document. */
const sectionsOf = (document: string) =>
  new Set([...readFileSync(document, 'utf8').matchAll(/^## (\d+)\./gm)].map(([, number]) => number));

interface Reference {
  from: string;
  document: string;
  section: string | null;
}

/** `name.md`, and `name.md, section N`, as comments and texts name our documents. */
function referencesIn(from: string): Reference[] {
  return [...readFileSync(from, 'utf8').matchAll(/\b([a-z]+)\.md\)?(?:,? section (\d+))?/g)].map(
    ([, name, section]) => ({ from, document: `docs/${name}.md`, section: section ?? null }),
  );
}

const OURS = ['formats', 'measuring', 'architecture', 'glossary', 'figures', 'method', 'product', 'cameras'];

test('documents that are named are there, and so are their sections', () => {
  const lost = files
    .flatMap(referencesIn)
    .filter(({ document }) => OURS.some((name) => document === `docs/${name}.md`))
    .filter(({ document, section }) => {
      if (!existsSync(document)) return true;
      return section !== null && !sectionsOf(document).has(section);
    });
  expect(lost).toEqual([]);
});

test('links between documents lead to files', () => {
  const lost = files
    .filter((file) => file.endsWith('.md'))
    .flatMap((file) =>
      [...readFileSync(file, 'utf8').matchAll(/\]\(([^)#\s]+)(?:#[^)]*)?\)/g)]
        .map(([, target]) => target)
        .filter((target) => !/^[a-z]+:/.test(target))
        .map((target) => ({ file, target, path: normalize(join(dirname(file), target)) })),
    )
    .filter(({ path }) => !existsSync(path));
  expect(lost).toEqual([]);
});

test('every file and test that the table of figures names is there', () => {
  const rows = readFileSync('docs/figures.md', 'utf8')
    .split('\n')
    .filter((line) => line.startsWith('| ') && !/^\| (Figure|---)/.test(line));
  expect(rows.length).toBeGreaterThan(20);
  const lost = rows.flatMap((row) => {
    const [, figure, code, , tests] = row.split('|');
    const names = (cell: string) => [...cell.matchAll(/`([^`]+)`/g)].map(([, name]) => name);
    const [first, ...rest] = names(code);
    const folder = dirname(first);
    const beside = (name: string) => [name, join(folder, name)].some((one) => existsSync(join('src/core', one)));
    return [first, ...rest, ...names(tests)].filter((name) => !beside(name)).map((name) => `${figure.trim()}: ${name}`);
  });
  expect(lost).toEqual([]);
});
