/** The JSON Schemas that are published, by file name. */
import { z } from 'zod';
import { readingsSchema } from '../src/core/session/readings';
import { sessionSchema } from '../src/core/session/schema';

export function publishedSchemas(): [string, string][] {
  const print = (schema: z.ZodType, title: string) =>
    `${JSON.stringify({ title, ...z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) }, null, 2)}\n`;
  return [
    ['session.schema.json', print(sessionSchema, 'Aurora Glade session, version 1')],
    ['readings.schema.json', print(readingsSchema, 'Aurora Glade readings, version 1')],
  ];
}
