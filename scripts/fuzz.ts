/**
 * Hostile documents and texts by the thousand: `npm run fuzz -- [count] [seed]`. Says how many were refused and read, and what went wrong with
 * its seed. Damaged media go to a running server by `GLADE_DAMAGED=2000 npx playwright test damaged.spec`.
 */
import { tryDocument, tryShelf, tryText } from '../src/core/testing/hostileInput';
import { hostileDocument, hostileText } from '../src/simulator/hostile';
import { randomPlan } from '../src/simulator/randomBench';
import { describeSession } from '../src/simulator/session';

const SLOW_MS = 2000;

async function main(): Promise<void> {
  const [count = '10000', seed = 'fuzz'] = process.argv.slice(2);
  const plan = randomPlan(seed, { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 });
  const sound = describeSession(plan, { id: 'kit', name: 'Kit' }) as Record<string, unknown>;
  const text = JSON.stringify(sound);
  const ends = { refused: 0, read: 0, texts: 0, failed: 0, slow: 0 };
  for (let n = 0; n < Number(count); n++) {
    const own = `${seed}/${n}`;
    const start = performance.now();
    try {
      if (n % 2 === 0) {
        const document = hostileDocument(sound, own);
        ends[await tryDocument(document)]++;
        tryShelf(document);
      } else {
        tryText(hostileText(text, own));
        ends.texts++;
      }
    } catch (error) {
      ends.failed++;
      console.log(`${own}: ${(error as Error).stack}`);
    }
    if (performance.now() - start > SLOW_MS) {
      ends.slow++;
      console.log(`${own}: took ${Math.round(performance.now() - start)} ms`);
    }
  }
  const { rss } = process.memoryUsage();
  console.log(
    `${count} tried: ${ends.refused} documents refused in sentences, ${ends.read} read and measured without pictures, ${ends.texts} texts; ` +
      `${ends.failed} failed, ${ends.slow} took over ${SLOW_MS / 1000} s; ${Math.round(rss / 1e6)} MB.`,
  );
  if (ends.failed + ends.slow > 0) process.exitCode = 1;
}

void main();
