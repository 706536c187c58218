import { Readable } from 'node:stream';
import { z } from 'zod';
import { formOf, HOME, roundRobinSchema } from '@/core/judging/agreement/roundRobin';
import { packBundle } from '@/media/bundle';
import { attachment, downloadName } from '@/server/downloads';
import { answer, RequestError } from '@/server/http';
import { readKit } from '@/store';

type Props = { params: Promise<{ id: string }> };

const planSchema = z
  .string()
  .max(10_000)
  .transform((text, context): unknown => {
    try {
      return JSON.parse(text);
    } catch {
      context.addIssue('no JSON');
      return z.NEVER;
    }
  })
  .pipe(roundRobinSchema);

/** A bench's form of a round robin with this kit, as a `.glade.zip` that opens as a session: `?plan=JSON&bench=NAME`. */
export function GET(request: Request, { params }: Props): Promise<Response> {
  return answer(async () => {
    const asked = new URL(request.url).searchParams;
    const plan = planSchema.safeParse(asked.get('plan'));
    if (!plan.success)
      throw new RequestError(422, `This plan of a round robin can’t be read: ${plan.error.issues[0].message}.`);
    const bench = asked.get('bench') ?? '';
    if (bench !== HOME && !plan.data.benches.includes(bench))
      throw new RequestError(422, 'The plan has no bench of that name.');
    const kept = await readKit((await params).id);
    if (!kept) throw new RequestError(404, 'There is no such kit.');
    const form = formOf(kept.item, plan.data, bench);
    const stream = packBundle(`${JSON.stringify(form, null, 2)}\n`, []);
    return new Response(Readable.toWeb(stream as Readable) as unknown as BodyInit, {
      headers: attachment(downloadName(String(form.title), '.glade.zip'), 'application/zip'),
    });
  });
}
