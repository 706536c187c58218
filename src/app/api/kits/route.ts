import { kitsAnswer } from '@/server/kitsFile';
import { answer } from '@/server/http';
import { allKits } from '@/store';

/** All kits of the shelf as a file: `?format=csv` or `json`. */
export function GET(request: Request): Promise<Response> {
  return answer(async () => kitsAnswer(await allKits(), 'kits', request));
}
