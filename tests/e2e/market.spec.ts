import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { printsCsv } from '../../src/core/formats/index.ts';
import type { Print } from '../../src/core/market/index.ts';
import { practiceDay, printOf, runAlone } from '../../src/core/sim/index.ts';
import { at } from '../../src/core/units/index.ts';
import { clock, goTo, order, position, practise, sayBack, ticket, view } from './desk.ts';

test('a squeeze: the auction forms, a volatility pause comes with its reason and fires what waited for it; orders wait in it and fill at the reopening', async ({
  page,
}) => {
  await practise(page, 'Low float, volatility pauses', '09:20:00');
  await view(page, 'Desk');
  // Who is rushed is drawn; it is the one of whom few shares are free to trade.
  const rushed = practiceDay('low-float', 7, 0, null, 60).symbols.find((x) => x.rushes?.untilPaused);
  const symbol = rushed?.instrument.symbol ?? '';
  await ticket(page, `focus ${symbol}`);
  await expect(page.getByTestId('focus-symbol')).toHaveText(symbol);
  await goTo(page, '09:29:40', '09:29:40');
  const auction = page.getByTestId('auction');
  await expect(auction).toContainText('Opening auction 09:30:00');
  await expect(auction).toContainText(/would clear at[\d.]+pairs[\d,k]+left over/);
  await order(page, 'when halts > 0: buy 50 at last + 9%');
  await expect(position(page)).toHaveText(`flat in ${symbol}`);
  await page.getByRole('button', { name: 'Next event' }).click();
  await expect(page.getByTestId('halt')).toContainText('limit up–limit down: 15 seconds at the price band', {
    timeout: 90_000,
  });
  const last = Number(
    await page.getByRole('region', { name: 'Focus, account and keys' }).locator('.num').nth(1).innerText(),
  );
  await expect(position(page)).toHaveText('buy waits');
  await expect(page.getByRole('button', { name: `Orders of ${symbol}: 1` })).toBeVisible();
  await order(page, `buy 100 at ${(last * 1.09).toFixed(2)}`);
  await expect(page.getByRole('button', { name: `Orders of ${symbol}: 2` })).toBeVisible();
  await expect(page.getByTestId('auction')).toContainText('Reopening auction');
  await page.getByRole('button', { name: 'Next event' }).click();
  await expect(position(page)).toContainText('long 150 at', { timeout: 90_000 });
  await expect(page.getByTestId('prints')).toContainText('auct');
  await expect(page.getByTestId('halt')).toBeHidden();
});

test('midpoint: unseen, half-cent fills, price improvement added up; refused where there is no midpoint; in time and attempts', async ({
  page,
}) => {
  await page.goto('/desk');
  await expect(clock(page)).toHaveText('09:10:00', { timeout: 60_000 });
  await ticket(page, 'buy 200 at mid hidden');
  await expect(sayBack(page)).toContainText('Midpoint orders work in the regular session');
  await goTo(page, '09:35');
  await order(page, 'buy 200 of QUOLS at mid hidden');
  await page
    .getByRole('button', { name: /^QUOLS/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Run at 60 times' }).click();
  await expect(position(page)).toContainText('long 200 at', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Pause' }).click();
  await page.getByRole('heading', { name: 'Depth' }).click();
  await page.keyboard.press('f');
  await expect(position(page)).toHaveText('flat in QUOLS');
  await view(page, 'Review');
  await expect(page.getByText(/price improvement/)).toContainText(/\+\$\d/);
  await expect(page.getByRole('region', { name: 'One trade' })).toContainText('at the midpoint');

  // Going back: another attempt from there; the first is kept beside it.
  await goTo(page, '09:20');
  await page.goto('/days');
  const attempts = page.getByTestId('attempt');
  await expect(attempts).toHaveCount(2);
  await expect(attempts.first()).toContainText('went back in #1 to 09:20');
  await expect(attempts.first()).toContainText('under way');
  await expect(attempts.nth(1)).toContainText(/\$\d+\.\d\d/);
  await page.getByRole('button', { name: 'Step one bar' }).click();
  await expect(clock(page)).toHaveText('09:21:00');
  await page.getByRole('button', { name: 'Step one second' }).click();
  await expect(clock(page)).toHaveText('09:21:01');
});

const CSV = `symbol,date,time,open,high,low,close,volume
ACMEK,2027-05-04,09:30,5.00,5.10,4.98,5.05,12000
ACMEK,2027-05-04,09:31,5.05,5.02,5.01,5.02,8000
ACMEK,2027-05-04,09:32,5.02,5.30,5.00,5.28,20000
ACMEK,2027-05-08,09:33,5.28,5.30,5.20,5.25,9000
ACMEK,2027-05-04,09:34,5.25,5.40,5.25,5.38,many
ACMEK,2027-05-04,09:35,5.38,5.50,5.31,5.45,15000
BETON,2027-05-04,09:30,11.0,11.2,10.9,11.1,4000
`;

test('own data: three bad rows are named with line, value and reason; the good ones become a day that honours the bars', async ({
  page,
}) => {
  await page.goto('/days');
  await page
    .getByLabel('Choose files to import')
    .setInputFiles({ name: 'may.csv', mimeType: 'text/csv', buffer: Buffer.from(CSV) });
  await expect(page.getByLabel('Kind of rows')).toHaveText('minute bars');
  await page.getByRole('button', { name: 'Read the rows' }).click();
  const bad = page.getByTestId('bad-rows').locator('tbody tr');
  await expect(bad).toHaveCount(3);
  await expect(bad.nth(0)).toContainText(/3\s*open\s*5\.05\s*the open lies outside/);
  await expect(bad.nth(1)).toContainText('the exchange is closed on 2027-05-08 (weekend)');
  await expect(bad.nth(2)).toContainText(/6\s*volume\s*many\s*not a number/);
  await page.getByLabel('Name of the day').fill('My fourth of May');
  await page.getByRole('button', { name: 'Keep the 4 good rows' }).click();
  await page.getByRole('button', { name: 'Practise: My fourth of May' }).click();
  await expect(clock(page)).toHaveText('09:25:00', { timeout: 30_000 });
  await expect(page.getByTestId('focus-symbol')).toHaveText('ACMEK');
  await goTo(page, '09:40');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: '1-minute bars as CSV' }).click(),
  ]);
  const rows = readFileSync(await file.path(), 'utf8')
    .trim()
    .split('\r\n')
    .slice(1);
  expect(rows).toEqual([
    'ACMEK,2027-05-04,09:30,5,5.1,4.98,5.05,12000',
    'ACMEK,2027-05-04,09:32,5.02,5.3,5,5.28,20000',
    'ACMEK,2027-05-04,09:35,5.38,5.5,5.31,5.45,15000',
  ]);
});

test('bars in a Parquet file are read the same way; what is no table is named as none', async ({ page }) => {
  await page.goto('/days');
  const whole = readFileSync('tests/e2e/may.parquet');
  const damaged = Buffer.concat([whole.subarray(0, 20), Buffer.alloc(60, 7), whole.subarray(-4)]);
  for (const [name, buffer, says] of [
    ['empty.csv', Buffer.from(''), 'empty.csv is empty: a table has a line of headings'],
    ['picture.csv', Buffer.from([0x89, 0x50, 0, 0, 26, 10]), 'picture.csv is no table: it holds bytes'],
    ['short.parquet', whole.subarray(0, 90), 'short.parquet is no whole Parquet file'],
    ['damaged.parquet', damaged, 'damaged.parquet is a Parquet file that cannot be read: it is damaged'],
    ['words.csv', Buffer.from('only some words\n'), 'words.csv has no columns'],
  ] as const) {
    await page.getByLabel('Choose files to import').setInputFiles({ name, mimeType: '', buffer });
    await expect(page.getByRole('region', { name: 'Import your own data' }).getByRole('alert')).toContainText(
      says,
    );
  }
  await page.getByLabel('Choose files to import').setInputFiles('tests/e2e/may.parquet');
  await expect(page.getByLabel('Kind of rows')).toHaveText('minute bars');
  await page.getByRole('button', { name: 'Read the rows' }).click();
  await expect(page.getByTestId('import-sum')).toHaveText('3 rows can be used: ACMEK.');
});

test('the prints in this browser are the prints in Node, to the last one', async ({ page }) => {
  await page.goto('/days');
  await expect(clock(page)).toHaveText('09:10:00', { timeout: 60_000 });
  await goTo(page, '09:50');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Prints as CSV' }).click(),
  ]);
  const scenario = practiceDay('fresh-headlines', 7);
  const prints: Print[] = [];
  const i = scenario.symbols.findIndex((s) => s.instrument.symbol === 'VULPN');
  runAlone(scenario, i, at(9, 50), (h) => prints.push(printOf('VULPN', 0, h)));
  expect(prints.length).toBeGreaterThan(20_000);
  expect(readFileSync(await file.path(), 'utf8') === printsCsv('2027-03-09', prints)).toBe(true);
});

test('the worker is killed in a busy minute: the session comes back the same', async ({ page }) => {
  await page.goto('/desk');
  await expect(position(page)).toHaveText('flat in VULPN', { timeout: 60_000 });
  await page.getByRole('heading', { name: 'Depth' }).click();
  await page.keyboard.press('q');
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await expect(position(page)).toContainText('long 200 at');
  await goTo(page, '09:30');
  await page.getByRole('button', { name: 'Run at 20 times' }).click();
  await expect(clock(page)).toHaveText(/09:3[1-9]/, { timeout: 30_000 });
  const before = await position(page).innerText();
  await page
    .workers()[0]
    ?.evaluate(() => self.close())
    .catch(() => {});
  await page.reload();
  await expect(clock(page)).toHaveText(/09:3[1-9]/, { timeout: 30_000 });
  await expect(position(page)).toContainText(/(long|flat)/);
  if (before.includes('long 200')) await expect(position(page)).toHaveText(before);
  await expect(page.getByRole('button', { name: 'Run', exact: true })).toBeVisible();
});
