/** Bundles the programs that run without Next (worker, commands) into dist/. */
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

/** A name for the sources that figures depend on: what another build has kept is not taken. */
function nameOfSources() {
  const hash = createHash('sha256');
  for (const folder of ['src/core', 'src/media'])
    for (const name of readdirSync(folder, { recursive: true }).sort())
      if (/(?<!\.test)\.ts$/.test(name)) hash.update(name).update(readFileSync(join(folder, name)));
  return hash.update(readFileSync('package-lock.json')).digest('hex').slice(0, 16);
}

await build({
  entryPoints: {
    worker: 'src/jobs/main.ts',
    thread: 'src/media/thread.ts',
    decoder: 'src/media/vips/main.ts',
    measure: 'src/cli/measure.ts',
    manage: 'src/cli/manage.ts',
    watch: 'src/cli/watch.ts',
    gate: 'src/cli/gate.ts',
    web: 'src/cli/web.ts',
    keep: 'src/cli/keep.ts',
    people: 'src/cli/people.ts',
    pyramid: 'src/media/pyramidMain.ts',
    pose: 'src/media/poseMain.ts',
  },
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  splitting: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  // Packages of many small files would cost each start half a second to gather; left outside are those with machine code of their own, and
  // those that look for others while they run.
  external: ['sharp', 'sequelize', 'mysql2', 'umzug', 'next', 'pino'],
  banner: {
    js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
  },
  sourcemap: true,
  define: { GLADE_BUILD: JSON.stringify(nameOfSources()) },
  logLevel: 'warning',
});

// The browser's own worker, which Next would not give a fixed name.
await build({
  entryPoints: { 'sheet-worker': 'src/ui/sheetWorker.ts' },
  outdir: 'public',
  bundle: true,
  platform: 'browser',
  format: 'iife',
  target: 'es2022',
  minify: true,
  logLevel: 'warning',
});
