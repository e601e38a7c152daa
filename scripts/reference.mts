// npm run reference: writes docs/script-reference.md from the forms of the language.
import { writeFileSync } from 'node:fs';
import { manualText } from '../src/core/language/index.ts';

writeFileSync('docs/script-reference.md', manualText());
