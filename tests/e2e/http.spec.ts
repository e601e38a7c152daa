import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect, type Page, test } from '@playwright/test';
import { clock } from './desk';

test('every example of docs/http.md does what it says', async ({ baseURL }) => {
  const text = readFileSync('docs/http.md', 'utf8');
  const examples = [...text.matchAll(/```sh\n(.*?)\n```\n\n```text\n(.*?)\n```/gs)];
  expect(examples.length).toBe((text.match(/```sh/g) ?? []).length);
  expect(examples.length).toBeGreaterThan(6);
  const cwd = mkdtempSync(join(tmpdir(), 'keen-fox-'));
  for (const [, command = '', prints = ''] of examples) {
    const asked = command.replaceAll('http://localhost:4180', baseURL ?? '');
    const { stdout } = await promisify(execFile)('sh', ['-c', asked], { cwd });
    expect(stdout.trimEnd(), command).toBe(prints);
  }
});

test('bars had over HTTP are read back by the import, in each format', async ({ page, request }) => {
  await page.goto('/days');
  for (const format of ['csv', 'jsonl', 'parquet']) {
    const answer = await request.get(
      `/api/days/thin/bars?symbol=VULPN,ORBNT&variation=3&from=09:30&to=11:00&format=${format}`,
    );
    const name = `bars.${format}`;
    await page
      .getByLabel('Choose files to import')
      .setInputFiles({ name, mimeType: '', buffer: await answer.body() });
    await expect(page.getByLabel('Kind of rows')).toHaveText('minute bars');
    await page.getByRole('button', { name: 'Read the rows' }).click();
    await expect(page.getByTestId('import-sum')).toHaveText(/^\d{2,3} rows can be used: ORBNT, VULPN\.$/);
    await page.getByRole('button', { name: 'Keep nothing' }).click();
  }
});

/** The session as it is kept, as one number for all its bits; empty where nothing is kept yet. */
const kept = (page: Page): Promise<string> =>
  page.evaluate(async () => {
    const done = <T>(r: IDBRequest<T>) =>
      new Promise<T>((resolve) => {
        r.onsuccess = () => resolve(r.result);
      });
    const db = await done(indexedDB.open('keen-fox'));
    for (const name of db.objectStoreNames) {
      const all: unknown[] = await done(db.transaction(name).objectStore(name).getAll());
      const session = all.find((x) => typeof x === 'object' && x !== null && 'market' in x && 'seq' in x);
      if (session === undefined) continue;
      const arrays: ArrayBufferView<ArrayBuffer>[] = [];
      const rest = JSON.stringify(session, (_k, v: unknown) =>
        ArrayBuffer.isView(v) ? arrays.push(v as ArrayBufferView<ArrayBuffer>) : v,
      );
      const parts = [new TextEncoder().encode(rest), ...arrays];
      const whole = await new Blob(parts).arrayBuffer();
      return [...new Uint8Array(await crypto.subtle.digest('SHA-256', whole))].join(' ');
    }
    return '';
  });

test('a day that the server has made is the day that the browser makes, bit for bit', async ({
  browser,
  request,
}) => {
  const hashes: string[] = [];
  await expect
    .poll(async () => (await request.get('/api/days/fresh-headlines/start')).status(), { timeout: 60_000 })
    .toBe(200);
  for (const from of ['server', 'browser']) {
    const context = await browser.newContext();
    const page = await context.newPage();
    let answered = 0;
    await context.route('**/start?*', async (route) => {
      if (from === 'browser') return route.abort();
      answered++;
      return route.continue();
    });
    await page.goto('/days');
    await expect(clock(page)).toHaveText('09:10:00', { timeout: 60_000 });
    await expect.poll(() => kept(page)).not.toBe('');
    hashes.push(await kept(page));
    expect(answered).toBe(from === 'server' ? 1 : 0);
    await context.close();
  }
  expect(hashes[1]).toBe(hashes[0]);
});
