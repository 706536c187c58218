/** The simulated camera: shoots the takes of a plan while a live sitting looks on. */
import { copyFile, mkdir, mkdtemp, rename, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { leftOutOf } from '@/core/sitting/live/leftOut';
import { SHOT_MISTAKES, type ShotMistake } from '@/core/sitting/live/mistakes';
import { plannedOf } from '@/core/sitting/planning/planned';
import { takesToShoot } from '@/core/sitting/planning/progress';
import { developPicture, shootTake } from '@/simulator/card';
import { liveSitting, waitingFor } from '@/server/liveSetting';
import { addToInbox, loadSession, storeFile } from '@/store';

/** Between two looks whether something is due. */
const WAIT_MS = 300;
const MOST_WAIT_MS = 10_000;

const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));

/** Whether files of the sitting that goes on wait to be laid. */
async function isWaiting(): Promise<boolean> {
  const live = await liveSitting();
  return live !== null && (await waitingFor(live)).length > 0;
}

/** Planned takes that are open on the run sheet and have no footage, in order, and how often each was left out. */
async function openTakes(sessionId: string): Promise<{ open: string[]; leftOut: ReadonlyMap<string, number> }> {
  const { session } = await loadSession(sessionId);
  const leftOut = new Map<string, number>();
  for (const { take } of leftOutOf(session)) leftOut.set(take, (leftOut.get(take) ?? 0) + 1);
  return { open: takesToShoot(session).map(({ take }) => take.id), leftOut };
}

/** Pictures of one take of a session's plan by the simulated camera, in a folder of their own whose files are handed to `put`. */
async function withShot(
  sessionId: string,
  take: string,
  mistake: ShotMistake | null,
  put: (path: string, name: string) => Promise<void>,
): Promise<void> {
  const { session } = await loadSession(sessionId);
  const filters = session.kits.flatMap((kit) => kit.filters);
  const { bench, pictures } = shootTake(
    plannedOf(session),
    filters,
    `practice ${sessionId}`,
    take,
    mistake,
    Date.now(),
  );
  const folder = await mkdtemp(join(tmpdir(), 'glade-card-'));
  try {
    for (const picture of pictures) await put(await developPicture(bench, picture, folder), picture.name);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** The simulated camera shoots the next take of a plan; its files wait like any that have arrived. Prints the take, or nothing when all are shot. */
export async function shootNext(sessionId: string, mistake: string): Promise<void> {
  // What was shot before has to lie on its take first: it would be shot again.
  for (let waited = 0; waited < MOST_WAIT_MS && (await isWaiting()); waited += WAIT_MS) await pause(WAIT_MS);
  const [take] = (await openTakes(sessionId)).open;
  if (take === undefined) return;
  await withShot(sessionId, take, SHOT_MISTAKES.find((one) => one === mistake) ?? null, async (path, name) => {
    const { sha256 } = await storeFile(path, name);
    await addToInbox(name, sha256, 'watch');
  });
  process.stdout.write(take);
}

/**
 * The simulated camera shoots a whole plan into a folder that is watched, a take every so many seconds; every so many takes something goes wrong.
 * A take that a live sitting opens again is shot again.
 */
export async function camera([sessionId, folder, every = '5', wrong = '0']: readonly string[]): Promise<void> {
  const [seconds, wrongEvery] = [Number(every), Number(wrong)];
  if (!sessionId || !folder || !(seconds >= 0) || !(wrongEvery >= 0))
    throw new Error(
      'usage: ./glade camera SESSION FOLDER [SECONDS [N]]: a take every so many seconds, every Nth with a mistake',
    );
  await mkdir(folder, { recursive: true });
  const shots = new Map<string, number>();
  for (let count = 1; ;) {
    const { open, leftOut } = await openTakes(sessionId);
    if (open.length === 0) return;
    // What was shot is on its way to its take; it is due again only once it was left out.
    const take = open.find((one) => (shots.get(one) ?? 0) <= (leftOut.get(one) ?? 0));
    if (take === undefined) {
      await pause(WAIT_MS);
      continue;
    }
    const isWrong = wrongEvery > 0 && count % wrongEvery === 0;
    const mistake = isWrong ? SHOT_MISTAKES[(count / wrongEvery - 1) % SHOT_MISTAKES.length] : null;
    await withShot(sessionId, take, mistake, async (path, name) => {
      // As cards do: first under a name that nobody looks at.
      await copyFile(path, join(folder, `.${name}`));
      await rename(join(folder, `.${name}`), join(folder, name));
    });
    shots.set(take, (shots.get(take) ?? 0) + 1);
    count++;
    console.log(`${take}${mistake ? `, with a mistake: ${mistake}` : ''}`);
    await pause(1000 * seconds);
  }
}
