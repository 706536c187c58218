/**
 * Entry point of the child that decodes stills behind the fence: it sees one file at a time in a folder that it can't write, and leaves the
 * codes in one of its own. Whoever asks is the parent, by messages.
 */
import { writeFile } from 'node:fs/promises';
import type { Answer, Question } from './fenced';
import { metadataHere, pixelsHere } from './decode';

const say = (answer: Answer) => process.send!(answer);

process.on('message', (question: Question) => {
  answer(question).then(say, ({ message, code }: NodeJS.ErrnoException) => say({ kind: 'failed', message, code }));
});
// Whoever asked is gone.
process.on('disconnect', () => process.exit());

async function answer(question: Question): Promise<Answer> {
  if (question.kind === 'metadata') return { kind: 'metadata', metadata: await metadataHere(question.file) };
  const { data, ...shape } = await pixelsHere(question.file, question.asked);
  await writeFile(question.into, data);
  return { kind: 'pixels', ...shape };
}
