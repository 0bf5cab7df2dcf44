// TypeScript types of the session document, from its published JSON Schema. --check only tells whether they are current.
import { readFileSync, writeFileSync } from 'node:fs';
import { compileFromFile } from 'json-schema-to-typescript';

const target = 'resources/js/api/session.d.ts';
const types = await compileFromFile('docs/formats/session.schema.json', {
    bannerComment: '/* Made from docs/formats/session.schema.json by "npm run types". Do not edit. */',
    style: { tabWidth: 4, singleQuote: true, printWidth: 120 },
    additionalProperties: false,
    ignoreMinAndMaxItems: true,
});
if (process.argv.includes('--check')) {
    if (readFileSync(target, 'utf8') !== types) {
        console.error(`${target} is not what the schema says. Run "npm run types".`);
        process.exit(1);
    }
} else {
    writeFileSync(target, types);
}
