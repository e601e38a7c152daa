import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import { clock, goTo, order, position, sayBack, smallMarket, ticket, view } from './desk';

const tab = (page: Page, name: string) =>
  page.getByRole('group', { name: 'What is shown' }).getByRole('button', { name, exact: true }).click();

/** Nothing on the page keeps anybody out. */
async function accessible(page: Page, what: string) {
  const { violations } = await new AxeBuilder({ page }).include('main').analyze();
  expect(
    violations.map((v) => `${what}: ${v.id} ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`),
  ).toEqual([]);
}

test('a month of executions with two mistakes is taken in, a habit is found, and all of it moves to a clean profile as one file', async ({
  page,
  browser,
}) => {
  const rows = readFileSync('docs/example-month.csv', 'utf8').trimEnd().split('\n');
  rows[4] = (rows[4] as string).replace(/,B,|,S,/, ',maybe,');
  rows[9] = (rows[9] as string).replace(/^\d{4}-\d\d-\d\d/, '2027-02-30');
  const file = { name: 'month.csv', mimeType: 'text/csv', buffer: Buffer.from(rows.join('\n')) };
  await page.goto('/review');
  await tab(page, 'In and out');
  const torn = [...rows.slice(0, 6), `"${rows[6]}`, ...rows.slice(7)].join('\n');
  await page
    .getByLabel('File of executions')
    .setInputFiles({ ...file, name: 'torn.csv', buffer: Buffer.from(torn) });
  await expect(page.getByRole('alert').filter({ hasText: 'torn.csv' })).toContainText(
    'a quote in row 7 that is never closed',
  );
  await page.getByLabel('File of executions').setInputFiles(file);
  await page.getByLabel('Name of the mapping').fill('My broker');
  await page.getByRole('button', { name: 'Keep the mapping' }).click();
  await page.getByRole('button', { name: 'Read the rows' }).click();
  const bad = page.getByTestId('bad-executions').getByRole('row');
  await expect(bad).toHaveCount(3);
  await expect(bad.nth(1)).toContainText(/5\s*Side\s*maybe\s*neither bought nor sold/);
  await expect(bad.nth(2)).toContainText(/10\s*Date\s*2027-02-30\s*not a date/);
  await page.getByRole('button', { name: /^Keep the \d+ trades of the good rows/ }).click();
  await expect(page.getByText(/trades are in Review now/)).toBeVisible();

  // The same file again: nothing of it is new; and how its columns were read is remembered.
  await page.getByLabel('File of executions').setInputFiles(file);
  await page.getByRole('button', { name: 'As in “My broker”' }).click();
  await page.getByRole('button', { name: 'Read the rows' }).click();
  await expect(page.getByTestId('executions-sum')).toContainText(/were taken in before and are left out/);
  await expect(page.getByRole('button', { name: /^Keep the 0 trades/ })).toBeDisabled();
  await page.getByRole('button', { name: 'Keep nothing' }).click();

  // What costs stands at the top, and leads to its trades.
  await tab(page, 'All days');
  const stop = page.getByRole('region', { name: 'What to stop doing' });
  await expect(stop).toContainText(/Price: \$2 to 5/);
  await accessible(page, 'all days');
  await stop.getByRole('button', { name: /Price: \$2 to 5/ }).click();
  const shown = page.getByTestId('kept-trade');
  await expect(shown.first()).toBeVisible();
  const search = page.getByRole('search');
  await expect(search).toContainText(/^.*\d+ of \d+ trades/);
  await shown.first().click();
  const sheet = page.getByRole('region', { name: 'One kept trade' });
  await sheet.getByLabel('Setup').fill('bored');
  await sheet.getByRole('radio', { name: 'broken' }).click();
  await sheet.getByLabel('Which rule was broken').fill('nothing thin over noon');
  await sheet.getByLabel(/^Notes/).fill('again');
  // A picture is pasted beside the notes.
  await sheet.getByLabel(/^Notes/).evaluate((el) => {
    const bytes = Uint8Array.from(
      atob(
        'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      ),
      (c) => c.charCodeAt(0),
    );
    const clipboardData = new DataTransfer();
    clipboardData.items.add(new File([bytes], 'x.png', { type: 'image/png' }));
    el.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  });
  await expect(sheet.getByRole('img', { name: 'Pasted, number 1' })).toBeVisible();
  await page
    .getByRole('group', { name: 'What the list is of' })
    .getByRole('button', { name: 'Executions' })
    .click();
  await expect(page.getByTestId('execution').first()).toContainText(/\d\d:\d\d:\d\d\.\d{3}/);
  await accessible(page, 'trades');
  await page.getByRole('button', { name: 'by day' }).click();
  await expect(page.getByTestId('execution').first()).toContainText(/executions/);
  await page.getByRole('button', { name: 'No longer only $2 to 5' }).click();
  await tab(page, 'Taken apart');
  await page.getByRole('button', { name: 'Rule broken' }).click();
  await expect(page.getByRole('region', { name: 'By Rule broken' })).toContainText('nothing thin over noon');
  await page.getByRole('button', { name: 'Side', exact: true }).click();
  await expect(page.getByRole('region', { name: 'By Side' })).toContainText(/long/);
  await accessible(page, 'taken apart');
  await tab(page, 'Looking ahead');
  await expect(page.getByRole('region', { name: 'What is drawn from' })).toContainText(/down after 300/);
  await accessible(page, 'looking ahead');
  await tab(page, 'Page');
  await page.getByLabel('In my words').fill('Less of it.');
  await accessible(page, 'page');
  const [markdown] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'As Markdown' }).click(),
  ]);
  expect(readFileSync(await markdown.path(), 'utf8')).toMatch(
    /# Day 2027-04-22[\s\S]*## Taken, not on the shortlist[\s\S]*Less of it\./,
  );

  // Out as executions, and everything as one file, which a clean profile takes in.
  await tab(page, 'In and out');
  await accessible(page, 'in and out');
  const [csv] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Executions, CSV' }).click(),
  ]);
  expect(
    readFileSync(await csv.path(), 'utf8')
      .trim()
      .split('\r\n').length,
  ).toBeGreaterThan(200);
  const [archive] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Write an archive' }).click(),
  ]);
  const packed = readFileSync(await archive.path());
  const clean = await (await browser.newContext()).newPage();
  await clean.goto('/review');
  await expect(clock(clean)).toHaveText(/\d:\d/, { timeout: 60_000 });
  await tab(clean, 'In and out');
  await clean
    .getByLabel('Archive to take in')
    .setInputFiles({ name: 'x.gz', mimeType: 'application/gzip', buffer: packed.subarray(0, 2_000) });
  await expect(clean.getByRole('status').filter({ hasText: '⚠' })).toContainText(/cut off/);
  await clean
    .getByLabel('Archive to take in')
    .setInputFiles({ name: 'x.gz', mimeType: 'application/gzip', buffer: packed });
  await expect(clean.getByTestId('archive-sum')).toContainText(
    /1 session,.*trades, 1 remark, 1 file taken in, 1 page/,
  );
  await clean.getByRole('button', { name: 'Put it in place of everything here' }).click();
  await clean.getByRole('button', { name: /^Really/ }).click();
  await expect(clean.getByRole('region', { name: 'What to stop doing' })).toContainText('Price');
  await tab(clean, 'Taken apart');
  await clean.getByRole('button', { name: 'Setup', exact: true }).click();
  await expect(clean.getByRole('region', { name: 'By Setup' })).toContainText('bored');
  await tab(clean, 'Page');
  await expect(clean.getByLabel('In my words')).toHaveValue('Less of it.');
  await clean.context().close();
});

test('a trade that was left early: what its plan would have made, watched again as it was, and taken again as hindsight', async ({
  page,
  browser,
}) => {
  await smallMarket(page);
  await page.goto('/desk');
  await expect(page.getByTestId('depth')).toBeVisible();
  await goTo(page, '09:33');
  await order(page, 'buy 200 of VULPN at ask + 3c\n stop 30c\n target 45c for half\n target 90c');
  await expect(position(page)).toContainText('long 200 at');
  await goTo(page, '09:34');
  await ticket(page, 'flatten');
  await expect(position(page)).toHaveText('flat in VULPN');
  await view(page, 'Review');
  // How far it went, as a point.
  await tab(page, 'All days');
  await page.locator('.recharts-scatter-symbol').first().click();
  await expect(page.getByRole('region', { name: 'One kept trade' })).toContainText('VULPN');
  await tab(page, 'Left early');
  // The day is not over: nothing of the rest of it is told.
  await page.getByRole('button', { name: 'Live it through again' }).click();
  await expect(page.getByRole('region', { name: 'What leaving costs' })).toContainText(
    /0 trades were touched by hand, 0 left alone\. Not told of:\s*1 of sessions that have not been lived through again/,
  );
  await goTo(page, '16:10');
  await page.getByRole('button', { name: 'Live it through again' }).click();
  const left = page.getByRole('region', { name: 'Trades that were left' });
  await expect(left).toContainText(/long VULPN\s*2027-03-09\s*flatten/, { timeout: 60_000 });
  await left.getByRole('button', { name: 'long VULPN' }).click();
  const sheet = page.getByRole('region', { name: 'One kept trade' });
  await expect(sheet).toContainText('buy 200 of VULPN');

  // Watched again: the minute before, then what was done comes by itself.
  await sheet.getByRole('button', { name: 'Watch it again' }).click();
  await expect(page).toHaveURL(/desk$/);
  await expect(clock(page)).toHaveText('09:32:00', { timeout: 60_000 });
  const watching = page.getByRole('button', { name: /^watching #1, 2 to come/ });
  await expect(watching).toBeVisible();
  await goTo(page, '09:33:30', '09:33:30');
  await expect(position(page)).toContainText('long 200 at');
  await page.getByRole('button', { name: /^watching #1, 1 to come/ }).click();
  await goTo(page, '09:35');
  await expect(position(page)).toContainText('long');
  await ticket(page, 'flatten');
  await expect(sayBack(page)).toContainText('VULPN is flat');
  await view(page, 'Review');
  await tab(page, 'Trades');
  // What counts is the first attempt alone; the other is hindsight.
  await expect(page.getByTestId('kept-trade')).toHaveCount(1);
  await page.getByRole('button', { name: 'Hindsight only (1)' }).click();
  await page.getByTestId('kept-trade').first().click();
  await expect(sheet).toContainText('hindsight');

  // Everything moves, the session under way as well.
  const stands = await clock(page).innerText();
  await tab(page, 'In and out');
  const [archive] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Write an archive' }).click(),
  ]);
  const clean = await (await browser.newContext()).newPage();
  await clean.goto('/review');
  await expect(clock(clean)).toHaveText(/\d:\d/, { timeout: 60_000 });
  await tab(clean, 'In and out');
  await clean.getByLabel('Archive to take in').setInputFiles({
    name: 'x.gz',
    mimeType: 'application/gzip',
    buffer: readFileSync(await archive.path()),
  });
  await clean.getByRole('button', { name: 'Put it in place of everything here' }).click();
  await clean.getByRole('button', { name: /^Really/ }).click();
  await expect(clock(clean)).toHaveText(stands, { timeout: 60_000 });
  await tab(clean, 'Trades');
  await expect(clean.getByRole('button', { name: 'Hindsight only (1)' })).toBeVisible();
  await clean.context().close();
});
