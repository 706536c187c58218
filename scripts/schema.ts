/** Prints the JSON Schemas of the file formats into docs/schema. `npm run schema`. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { publishedSchemas } from './schemas';

mkdirSync('docs/schema', { recursive: true });
for (const [name, text] of publishedSchemas()) writeFileSync(`docs/schema/${name}`, text);
