/** Bundles the programs that run without Next (worker, commands) into dist/. */
import { build } from 'esbuild';

await build({
  entryPoints: { worker: 'src/jobs/main.ts', measure: 'src/cli/measure.ts', manage: 'src/cli/manage.ts' },
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  splitting: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  sourcemap: true,
  logLevel: 'warning',
});
