import { readFileSync } from 'node:fs';
import { publishedSchemas } from './schemas';

test.each(publishedSchemas())('docs/schema/%s is what the code says (npm run schema prints it)', (name, text) => {
  expect(readFileSync(`docs/schema/${name}`, 'utf8')).toBe(text);
});
