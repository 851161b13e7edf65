import { mkdirSync, writeFileSync } from 'node:fs';
import { exampleFiles } from './example';

/** Makes the files of the example that ships with the product. `npm run example` makes them anew. */
const folder = new URL('../../../web/public/example/', import.meta.url);

mkdirSync(folder, { recursive: true });
for (const [name, bytes] of Object.entries(await exampleFiles())) writeFileSync(new URL(name, folder), bytes);
