/** Compiles the validators the application needs ahead to a plain module, so that the page needs no eval. */
import { mkdirSync, writeFileSync } from 'node:fs';
import Ajv from 'ajv';
import standalone from 'ajv/dist/standalone';
import * as contract from './src/index';

const schemas = { StampedPlate: contract.StampedPlate, Survey: contract.Survey };
const ajv = new Ajv({ code: { source: true, esm: true, lines: true }, allErrors: true });
const names = Object.keys(schemas) as Array<keyof typeof schemas>;
for (const name of names) ajv.addSchema(schemas[name], name);
const code = standalone(ajv, Object.fromEntries(names.map((n) => [`is${n}`, n])));
const folder = new URL('./compiled/', import.meta.url);
mkdirSync(folder, { recursive: true });
writeFileSync(new URL('validators.js', folder), code);
writeFileSync(
  new URL('validators.d.ts', folder),
  `import type { ValidateFunction } from 'ajv';\nimport type { ${names.map((n) => `${n} as ${n}Schema`).join(', ')} } from '../src';\nimport type { Static } from '@sinclair/typebox';\n` +
    names.map((n) => `export const is${n}: ValidateFunction<Static<typeof ${n}Schema>>;\n`).join(''),
);
