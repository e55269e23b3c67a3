// Writes the JSON Schema of the set file from the model. Needs a build of the core.
import fs from 'node:fs';
import path from 'node:path';
import { root } from './install.mjs';

const { setFileJsonSchema } = await import(path.join(root, 'packages/core/dist/index.js'));
fs.writeFileSync(path.join(root, 'docs/set-file-1.schema.json'), `${JSON.stringify(setFileJsonSchema(), null, 2)}\n`);
