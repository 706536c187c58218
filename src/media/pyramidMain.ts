/** Makes one pyramid and ends: large pictures are decoded beside the server, not in it. `pyramid SOURCE NAME TARGET FACTS RESPONSE` */
import { writePyramid } from './pyramid';

const [source, name, target, facts, response] = process.argv.slice(2);

writePyramid(source, name, target, JSON.parse(facts), JSON.parse(response)).catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 1;
});
