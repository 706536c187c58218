/**
 * Tells how one picture lies on another and ends: whole pictures are decoded beside the server, not in it. `pose OWN NAME BARE NAME`; names
 * say what kind of file it is, and which frame of a clip. Writes JSON.
 */
import { alignPreviews } from '@/core/laying/align';
import { judgeView } from '@/core/laying/carry';
import { openMedia } from './files';

const [own, ownName, bare, bareName] = process.argv.slice(2);

async function previewOf(path: string, name: string) {
  const picture = await openMedia(path, name);
  const { facts, preview } = picture;
  picture.close();
  return { preview, width: facts.width, height: facts.height };
}

async function main(): Promise<void> {
  const [take, reference] = [await previewOf(own, ownName), await previewOf(bare, bareName)];
  const tell = (answer: object) => process.stdout.write(JSON.stringify(answer));
  if (!take.preview || !reference.preview) return void tell({ problem: 'There is no small view to lay it by.' });
  if (take.width !== reference.width || take.height !== reference.height)
    return void tell({ problem: 'Its frame has another size than bare’s.' });
  const state = judgeView(alignPreviews(reference.preview, take.preview), reference);
  if (state.kind === 'same') tell({});
  else if (state.kind === 'moved') tell({ pose: state.pose });
  else tell({ problem: `It is shown where it stands: ${state.words}.` });
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 1;
});
