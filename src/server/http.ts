/** What route handlers share: sentences for errors, the check of where a request comes from. */
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import type { z } from 'zod';
import { tooMuchText } from '@/core/session/limits';
import { responseSchema, type Response as SessionResponse } from '@/core/session/schema';
import { SessionError } from '@/core/session/parse';
import { UnreadablePicture } from '@/core/reading/facts';
import { log } from '@/log/log';
import { BundleError } from '@/media/bundle';
import { AccountError, isAway, isFull, isReadersOnly, MediaError, NoSuchSession } from '@/store';
import { DATABASE_AWAY, DISK_FULL } from './asked';

/** An error of the request, with its status. */
export class RequestError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** Runs a handler; errors that people can act on become `{ "error": sentence }`. */
export async function answer(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    // Nobody is there to read it: 499 is what servers write down then.
    if (error instanceof Error && error.name === 'AbortError') return new Response(null, { status: 499 });
    if (isFull(error)) return Response.json({ error: DISK_FULL }, { status: 507 });
    const status =
      error instanceof RequestError
        ? error.status
        : error instanceof NoSuchSession
          ? 404
          : isReadersOnly(error)
            ? 403
            : error instanceof SessionError ||
                error instanceof BundleError ||
                error instanceof UnreadablePicture ||
                error instanceof MediaError ||
                error instanceof AccountError
              ? 422
              : isAway(error)
                ? 503
                : 500;
    if (status >= 500) log.error(error);
    const message =
      status === 500
        ? 'Something went wrong on the server; its log says what.'
        : status === 503
          ? DATABASE_AWAY
          : (error as Error).message;
    return Response.json({ error: message }, { status });
  }
}

/** Refuses requests that another site's page sends. */
export function checkOrigin(request: Request): void {
  const origin = request.headers.get('origin');
  if (origin === null) return;
  if (!URL.canParse(origin) || new URL(origin).host !== request.headers.get('host'))
    throw new RequestError(403, 'Requests from other sites are not answered.');
}

/** Of a request's JSON, where nothing larger is meant. */
const MOST_BYTES = 1_000_000;

/**
 * What a request sends as JSON, read by its schema; the stream is left where it passes a bound.
 *
 * @param words what was expected, as a sentence
 * @throws RequestError
 */
export async function sentTo<T>(
  request: Request,
  schema: z.ZodType<T>,
  words: string,
  mostBytes = MOST_BYTES,
): Promise<T> {
  const parts: Uint8Array[] = [];
  let bytes = 0;
  const reader = request.body?.getReader();
  for (let next = await reader?.read(); next && !next.done; next = await reader?.read()) {
    bytes += next.value.byteLength;
    if (bytes > mostBytes)
      throw new RequestError(413, `This is more than ${mostBytes / 1e6} MB, the most that is taken.`);
    parts.push(next.value);
  }
  const text = Buffer.concat(parts).toString('utf8');
  const much = tooMuchText(text, mostBytes);
  if (much !== null) throw new RequestError(413, `This can’t be read: ${much}.`);
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new RequestError(400, words);
  }
  const parsed = schema.safeParse(json);
  if (!parsed.success) throw new RequestError(400, words);
  return parsed.data;
}

/** The response that an address names as JSON. Throws RequestError. */
export function responseOf(text: string | null): SessionResponse {
  let given: unknown = null;
  try {
    given = JSON.parse(text ?? '{"kind":"file"}');
  } catch {
    // Told below like anything else that is none.
  }
  const parsed = responseSchema.safeParse(given);
  if (!parsed.success) throw new RequestError(400, 'That is not a response.');
  return parsed.data;
}

/** A stored file as an answer; its address names its content, so that browsers may keep it for ever. */
export async function fileAnswer(path: string, type: string): Promise<Response> {
  const { size } = await stat(path);
  return new Response(Readable.toWeb(createReadStream(path)) as unknown as BodyInit, {
    headers: {
      'content-type': type,
      'content-length': String(size),
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
}
