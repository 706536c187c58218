import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { marked } from 'marked';
import type { Metadata } from 'next';
import { Header } from '@/ui/Header';

export const metadata: Metadata = { title: 'Method' };

/** `docs/method.md`: how each figure is made, in plain words. */
export default async function Page() {
  const text = await readFile(join(process.cwd(), 'docs', 'method.md'), 'utf8');
  const parts = [...text.matchAll(/^## (.+)$/gm)].map(([, title]) => title);
  const renderer = new marked.Renderer();
  renderer.heading = ({ text: title, depth }) => `<h${depth} id="${anchorOf(title)}">${title}</h${depth}>`;
  const html = await withDrawings(await marked.parse(text, { renderer }));
  return (
    <>
      <Header keeps />
      <main id="main" data-room="paper" className="bg-floor text-ink flex-1">
        <div className="mx-auto max-w-[980px] px-5 py-8 grid gap-10 md:grid-cols-[180px_minmax(0,1fr)]">
          <nav aria-label="Parts" className="text-label md:sticky md:top-6 self-start">
            <ul className="grid gap-1.5">
              {parts.map((title) => (
                <li key={title}>
                  <a href={`#${anchorOf(title)}`} className="hover:underline">
                    {title}
                  </a>
                </li>
              ))}
            </ul>
          </nav>
          {/* The text is the project's own file, not a visitor's. */}
          <article className="paper" dangerouslySetInnerHTML={{ __html: html }} />
        </div>
      </main>
    </>
  );
}

function anchorOf(title: string): string {
  return title
    .toLowerCase()
    .replace(/[^a-z]+/g, '-')
    .replace(/^-|-$/g, '');
}

/** Drawings stand in the page itself, so that they take its ink. */
async function withDrawings(html: string): Promise<string> {
  const names = [...html.matchAll(/<img src="pictures\/([\w-]+\.svg)"[^>]*>/g)];
  const drawings = await Promise.all(
    names.map(([, name]) => readFile(join(process.cwd(), 'docs', 'pictures', name), 'utf8')),
  );
  return names.reduce((page, [tag], i) => page.replace(tag, () => drawings[i]), html);
}
