import { readFile } from 'node:fs/promises';
import { access } from 'node:fs/promises';
import { join } from 'node:path';
import { ensure } from './gen.tmp';
import { measureSession } from '../src/core/measure';
import { parseSession } from '../src/core/session/parse';
import { folderSource } from '../src/media/folder';
import { compareWithTruth, type Comparison } from '../src/simulator/expected/compare';
import { coverageTable } from '../src/simulator/expected/coverage';
async function main() {
  const [count, classes, protocols, extras] = process.argv.slice(2);
  for (const kind of classes.split(',')) for (const protocol of protocols.split(',')) for (const extra of extras.split(';')) {
    const rows: Comparison[] = [];
    let n = 0;
    for (let i = 0; i < Number(count); i++) {
      try { await access(join('/tmp/cams', `${kind}-${protocol}-${i}`, 'session.glade.json')); } catch { continue; }
      const { plan, folder } = await ensure(kind as any, protocol, i);
      const json = JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8'));
      if (extra === 'none') json.takes = json.takes.filter((t: any) => t.role !== 'bracket');
      if (!process.env.EDGES) json.patches = json.patches.filter((p: any) => p.role !== 'edge');
      const session = parseSession(json);
      const t = performance.now();
      const readings = await measureSession(session, folderSource(folder), { createdAt: '', generator: '' });
      n++;
      const own = compareWithTruth(plan as any, readings);
      rows.push(...own);
      if (process.env.V) {
        console.log(kind, protocol, i, extra, (performance.now() - t).toFixed(0), 'ms', JSON.stringify((globalThis as any).learnedDebug ?? ''));
        for (const f of readings.filters) {
          if (process.env.CH) { const t = (plan as any).filters.find((x: any) => x.id === f.filter); console.log('   CH', f.filter, t.stops.map((x: number) => x.toFixed(3)).join(' '), ['r','g','b'].map((c, k) => { const v = (f.density?.channels as any)?.[c]; return v ? (v.value - t.stops[k]).toFixed(4) + '±' + v.u95.toFixed(4) : '-'; }).join(' ')); }
          const e = own.find((one) => one.measure === 'strength' && one.filter === f.filter)!;
          console.log('  ', f.filter, 'err', e.error?.toFixed(4), 'u95', e.u95?.toFixed(4), f.density?.budget?.map((line) => `${line.source} ${line.u.toFixed(4)}`).join(' '), f.faults.map((x) => x.code).join(' '));
        }
        for (const one of own) if (one.error !== null && Math.abs(one.error) > one.u95!) console.log('   OUT', one.measure, one.filter, one.error.toFixed(4), one.u95!.toFixed(4), (plan as any).filters.find((f: any) => f.id === one.filter).cornerStops?.toFixed(2), (plan as any).camera.falloffStops.toFixed(2));
        for (const f of readings.faults) console.log('   !', f.code, f.message.slice(0, 150));
      }
    }
    console.log(`\n${kind}, ${protocol}, ${extra} (${n})`);
    console.log(coverageTable(rows).join('\n'));
  }
}
void main();
