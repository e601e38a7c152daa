// After the build: hashes every inline script of the static pages, so that the
// Content-Security-Policy can allow exactly those.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const pages = readdirSync('.next/server/app', { recursive: true }).filter((f) => String(f).endsWith('.html'));
const hashes = new Set();
for (const page of pages) {
  const html = readFileSync(join('.next/server/app', String(page)), 'utf8');
  for (const [, attributes, body] of html.matchAll(/<script([^>]*)>([\s\S]*?)<\/script>/g)) {
    if (!/\ssrc=/.test(attributes) && body)
      hashes.add(`sha256-${createHash('sha256').update(body).digest('base64')}`);
  }
}
if (hashes.size === 0)
  throw new Error('no inline scripts found in .next/server/app: did the build change its layout?');
writeFileSync('.next/inline-script-hashes.json', JSON.stringify([...hashes]));
console.log(`content security policy: ${hashes.size} inline scripts of ${pages.length} pages`);
