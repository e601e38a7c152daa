import { readFileSync } from 'node:fs';
import { type BrowserContext, expect, type Page, test } from '@playwright/test';
import { pick } from './desk';
import { clock, goTo, order, position, sayBack, smallMarket, ticket, view } from './desk.ts';

/** A session that starts at the desk with nothing kept. */
async function desk(page: Page) {
  await page.goto('/desk');
  await expect(page.getByTestId('depth')).toBeVisible({ timeout: 30_000 });
}

const chart = (page: Page, name: RegExp) =>
  page.getByRole('group', { name: 'Orders on the chart' }).getByRole('slider', { name });
const stops = (page: Page) =>
  page.getByRole('group', { name: 'R ruler' }).getByRole('slider', { name: /^stop/ });
const waiting = (page: Page) => page.getByRole('button', { name: /^Waiting orders/ });

/** The tab dies without a word, and another one is opened at the desk. */
async function killed(context: BrowserContext, page: Page): Promise<Page> {
  await page.close({ runBeforeUnload: false });
  const next = await context.newPage();
  await desk(next);
  return next;
}

test('a three-minute close enters, fills in part, is protected for the part, takes a target, goes to breakeven, trails, and is out by time; the tab is killed after each step', async ({
  context,
  page: first,
}) => {
  test.setTimeout(300_000);
  let page = first;
  await desk(page);
  await goTo(page, '09:30');
  await order(
    page,
    'when 3m close > 6.10: buy 1500 at bid until 09:40\n  stop 30c\n  target 10c for third\n  breakeven after target 1\n  trail 20c after 12c\n  out by 09:41',
  );
  await expect(sayBack(page)).toContainText(/\d\dc to go, closes in 3:00/);
  page = await killed(context, page);

  // It waits, with its distance, in the list and on the chart.
  await expect(waiting(page)).toHaveAccessibleName('Waiting orders: 1');
  await waiting(page).click();
  const item = page.getByRole('list', { name: 'Waiting orders' }).getByRole('listitem');
  await expect(item).toContainText('when 3m close > 6.10: buy 1500 of VULPN at bid until 09:40');
  await expect(item).toContainText(/last of VULPN [\d.]+, [\d.]+c to go, closes in \d:\d\d/);
  await page.keyboard.press('Escape');

  await goTo(page, '09:38');
  await expect(page.getByText('condition 1 · 6.10')).toBeVisible();
  // It fires with the candle at 09:39:00; the bid fills in part within seconds, and the part is protected.
  await goTo(page, '09:39:06', '09:39:06');
  page = await killed(context, page);
  await expect(waiting(page)).toHaveAccessibleName('Waiting orders: none');
  await expect(position(page)).toHaveText(/^long \d+ at [\d.]+$/);
  const [, part = '', average = ''] = /^long (\d+) at ([\d.]+)$/.exec(await position(page).innerText()) ?? [];
  const third = Math.floor(Number(part) / 3);
  expect(Number(part)).toBeLessThan(1_500);
  await expect(stops(page)).toHaveAccessibleName(`stop of ${part}`);
  await expect(chart(page, new RegExp(`^target 1 of ${third} `))).toBeVisible();

  // The target fills: the stop has shrunk and stands at the average by itself.
  await goTo(page, '09:39:25', '09:39:25');
  page = await killed(context, page);
  await expect(position(page)).toHaveText(`long ${Number(part) - third} at ${average}`);
  await expect(stops(page)).toHaveAccessibleName(`stop of ${Number(part) - third}`);
  await expect(stops(page)).toHaveAttribute('aria-valuenow', String(Number(average)));

  // The rest of the entry has ended; the stop trails, and only up.
  await goTo(page, '09:40:30', '09:40:30');
  page = await killed(context, page);
  const trailed = Number(await stops(page).getAttribute('aria-valuenow'));
  expect(trailed).toBeGreaterThan(Number(average));

  await goTo(page, '09:41:05', '09:41:05');
  page = await killed(context, page);
  await expect(position(page)).toHaveText('flat in VULPN');

  // The journal has each step once, with its reason, and can be searched and taken out.
  await view(page, 'Review');
  await page.getByRole('button', { name: 'Journal', exact: true }).click();
  const journal = page.getByRole('region', { name: 'Day journal' });
  for (const search of [
    'condition 1 (3m close of VULPN',
    `moved to breakeven: ${(Number(average) - 0.3).toFixed(2)}`,
    'expired: its time is over',
    'is flat',
  ]) {
    await journal.getByLabel('Search').fill(search);
    await expect(journal.getByTestId('journal-line')).toHaveCount(1);
  }
  await journal.getByLabel('Search').fill('trails');
  const trails = await journal.getByTestId('journal-line').allInnerTexts();
  const to = trails.map((t) => Number(/→ ([\d.]+)/.exec(t)?.[1]));
  expect(to.length).toBeGreaterThan(2);
  expect([...to].sort((x, y) => x - y)).toEqual(to[0] === Math.min(...to) ? to : [...to].reverse());
  await journal.getByLabel('Search').fill('');
  await pick(journal.getByLabel('Kind'), 'filled');
  const filled = await journal.getByTestId('journal-line').count();
  expect(filled).toBeGreaterThan(2);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    journal.getByRole('button', { name: 'Journal as CSV' }).click(),
  ]);
  const csv = readFileSync(await file.path(), 'utf8');
  expect(csv.split('\r\n').filter((l) => l.includes(',filled,'))).toHaveLength(filled);
  expect(csv).toContain('2027-03-09,09:39:0');
});

test('a stop sleeps over the night, is drawn so, and after a gap fills at the price of the open, not at its own', async ({
  page,
}) => {
  await smallMarket(page);
  await desk(page);
  await ticket(page, 'focus ORBNT');
  await expect(page.getByTestId('focus-symbol')).toHaveText('ORBNT');
  await goTo(page, '15:59:50', '15:59:50');
  await order(page, 'buy 200 at usual through\n  stop 6c');
  await expect(position(page)).toContainText(/^long 200 at [\d.]+/);
  const paid = Number(/at ([\d.]+)/.exec(await position(page).innerText())?.[1]);
  await expect(page.getByText('1 stays overnight; its stop sleeps until 09:30')).toBeVisible();
  await goTo(page, '16:10');
  await expect(page.getByText('stop sleeps until 09:30', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Next day' }).click();
  await expect(clock(page)).toHaveText('04:00:00', { timeout: 120_000 });
  await expect(page.getByText('stop sleeps until 09:30', { exact: true })).toBeVisible();
  await goTo(page, '09:31');
  await expect(position(page)).toHaveText('flat in ORBNT');
  await view(page, 'Review');
  const story = page.getByRole('region', { name: 'One trade' });
  await expect(story).toContainText(/Stop triggered: ORBNT traded at [\d.]+, stop [\d.]+/);
  const text = await story.innerText();
  const [, at = 0, stop = 0] = (/traded at ([\d.]+), stop ([\d.]+)/.exec(text) ?? []).map(Number);
  const sold = Number(/sold (?:200|\d+) ORBNT at ([\d.]+)/.exec(text)?.[1]);
  expect(stop).toBeCloseTo(paid - 0.06, 2);
  expect(at).toBeLessThan(stop - 0.1);
  expect(Math.abs(sold / at - 1)).toBeLessThan(0.05);
});

test('exits are put on what is held by mouse alone, one is dragged, and a fill of the one ends the other', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await desk(page);
  await goTo(page, '09:40');
  await order(page, 'buy 200 at usual through');
  await expect(page.getByText('⚠ 200 without a stop')).toBeVisible();
  await page.getByRole('button', { name: 'Exits for VULPN' }).click();
  const form = page.getByRole('dialog', { name: 'Exits for VULPN' });
  await expect(form).toContainText('Sell 200 of 200 VULPN');
  await form.getByLabel('Stop', { exact: true }).fill('30c');
  await form.getByLabel('Target', { exact: true }).fill('1%');
  await expect(form).toContainText(/at [\d.]+ · net -\$6\d\.\d\d/);
  await form.getByRole('button', { name: 'Put them on' }).click();
  await expect(stops(page)).toHaveAccessibleName('stop of 200');
  // Another target alone leaves the stop where it is.
  const at = await stops(page).getAttribute('aria-valuenow');
  await form.getByLabel('Stop', { exact: true }).fill('');
  await form.getByLabel('Target', { exact: true }).fill('1.2%');
  await form.getByRole('button', { name: 'Put them on' }).click();
  await expect(sayBack(page)).toContainText('Takes the place of target 200');
  await page.keyboard.press('Escape');
  await expect(stops(page)).toHaveAccessibleName('stop of 200');
  await expect(stops(page)).toHaveAttribute('aria-valuenow', at ?? '');
  // Of the two, which is meant is asked.
  await page.getByRole('button', { name: /^Orders of VULPN/ }).click();
  const working = page.getByRole('list', { name: 'Working orders' }).getByRole('listitem');
  await working.filter({ hasText: 'stop sell' }).getByRole('button', { name: 'Cancel' }).click();
  await expect(sayBack(page)).toContainText('Either leaves 200 VULPN without a stop');
  await expect(sayBack(page).getByRole('button', { name: /and its group$/ })).toBeVisible();
  await page.keyboard.press('Escape');
  const target = chart(page, /^target 1 of 200 /);
  const before = Number(await target.getAttribute('aria-valuenow'));
  const box = await target.boundingBox();
  if (!box) throw new Error('the target is drawn');
  await page.mouse.move(box.x + 40, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 40, box.y + box.height / 2 - 6, { steps: 3 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Move (Enter)' }).click();
  await expect.poll(async () => Number(await target.getAttribute('aria-valuenow'))).toBeGreaterThan(before);
  // From the depth and from the chart the form opens with that price, on the side where it makes sense.
  const level = page.getByRole('button', { name: /^An exit at/ }).first();
  const price = ((await level.innerText()) ?? '').trim();
  await level.click();
  await expect(form.getByLabel('Target', { exact: true })).toHaveValue(price);
  await page.keyboard.press('Escape');
  const plot = await page.getByRole('group', { name: 'Orders on the chart' }).boundingBox();
  if (!plot) throw new Error('the chart is drawn');
  await page.mouse.dblclick(plot.x + 60, plot.y + plot.height - 60);
  await expect(form.getByLabel('Stop', { exact: true })).toHaveValue(/^\d+\.\d\d$/);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Run at 60 times' }).click();
  await expect(position(page)).toHaveText('flat in VULPN', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Pause' }).click();
  await page.getByRole('button', { name: /^Orders of VULPN/ }).click();
  await expect(page.getByText('No order of VULPN works or waits.')).toBeVisible();
});

test('the daily loss locks new risk and lets out; a guard is tightened at once and loosened for the next day', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await desk(page);
  await view(page, 'Setup');
  const guards = page.getByRole('region', { name: 'Accounts and guards' });
  await guards.getByLabel('Daily loss, $').fill('20');
  await guards.getByRole('button', { name: 'Keep the guards' }).click();
  await expect(guards.getByRole('status').first()).toContainText('Kept');
  await view(page, 'Desk');
  await goTo(page, '09:40');
  await order(page, 'short 400 at usual through');
  await page.getByRole('button', { name: 'Run at 20 times' }).click();
  await expect(page.getByText('■ locked')).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Pause' }).click();
  await ticket(page, 'short 10 at usual through');
  await page.getByRole('button', { name: 'Peek', exact: true }).click();
  await expect(sayBack(page)).toContainText('no new risk until the next day');
  await ticket(page, 'cover half at usual through');
  await expect(position(page)).toContainText('short 200');
  await page.keyboard.press('Escape');
  await page.getByRole('heading', { name: 'Depth' }).click();
  await page.keyboard.press('f');
  await expect(position(page)).toHaveText('flat in VULPN');
  // Loosening it waits.
  await view(page, 'Setup');
  await guards.getByLabel('Daily loss, $').fill('5000');
  await guards.getByRole('button', { name: 'Keep the guards' }).click();
  await expect(page.getByText('■ locked')).toBeVisible();
});

test('a condition that is true already is asked about; an order is replaced with another life and price; two accounts stand side by side', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await desk(page);
  await goTo(page, '09:40');
  await ticket(page, 'when last >= 1.00: buy 100 at usual through\n  stop usual');
  await expect(sayBack(page)).toContainText('This is true already');
  await sayBack(page)
    .getByRole('button', { name: /^when newly last >= 1\.00/ })
    .click();
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await waiting(page).click();
  await expect(page.getByRole('list', { name: 'Waiting orders' })).toContainText('has to be false once');
  await page.getByRole('button', { name: 'Pause', exact: true }).last().click();
  await expect(page.getByRole('list', { name: 'Waiting orders' })).toContainText('paused');
  await page.getByRole('list', { name: 'Waiting orders' }).getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('list', { name: 'Ended waiting orders' })).toContainText('cancelled');
  await page.keyboard.press('Escape');

  await order(page, 'one of\n  buy 100 at 5.00\n    stop 10c\n  short 100 below 4.80\n    stop 10c');
  await page.getByRole('button', { name: /^Orders of VULPN/ }).click();
  const orders = page.getByRole('list', { name: 'Working orders' });
  await expect(orders).toContainText('one of two, with');
  await expect(orders).toContainText('ahead in the queue');
  await orders
    .getByRole('listitem')
    .filter({ hasText: 'buy 100' })
    .getByRole('button', { name: 'Replace' })
    .click();
  // What cannot go stays where it was typed.
  const draft = page.getByLabel(/^Replace order \d+ with/);
  await draft.fill('buy at');
  await orders.getByRole('button', { name: 'Send' }).click();
  await expect(sayBack(page)).toContainText('Not sent');
  await expect(draft).toContainText('buy at');
  await draft.fill('buy 150 at 5.05 gtc');
  await orders.getByRole('button', { name: 'Send' }).click();
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await page.getByRole('button', { name: /^Orders of VULPN/ }).click();
  await expect(orders).toContainText('buy 150 at 5.05 gtc');
  await page.keyboard.press('Escape');

  // The other account knows nothing of them.
  await ticket(page, 'use account "Practice cash"');
  await expect(page.getByRole('button', { name: 'Account Practice cash' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Orders of VULPN: 0' })).toBeVisible();
  await ticket(page, 'short 100 at usual through');
  await expect(sayBack(page)).toContainText('is a cash account: it sells nothing short');
  await order(page, 'buy 100 at usual through\n  stop usual');
  await expect(position(page)).toContainText('long 100');
  await ticket(page, 'use account "Practice margin"');
  await expect(position(page)).not.toContainText('long 100');
  await order(page, 'buy 50 at usual through account "Practice cash"\n  stop usual');
  await ticket(page, 'use account "Practice cash"');
  await expect(position(page)).toContainText('long 150');

  // What rests unseen at the midpoint may rest in the book at its price, or take what is there: that names its price and asks.
  await order(page, 'add 20 at mid hidden');
  await page.getByRole('button', { name: /^Orders of VULPN/ }).click();
  await expect(orders.getByRole('button', { name: /^Rest in the book at \d/ })).toBeVisible();
  await orders.getByRole('button', { name: /^Take the ask at \d/ }).click();
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await expect(position(page)).toContainText('long 170');
  await ticket(page, 'flatten everything in all accounts');
  await expect(position(page)).toHaveText('flat in VULPN');
});

test('a plan is edited by hand on its picture, kept, and taken by an order; the usual distances are a table', async ({
  page,
}) => {
  await desk(page);
  await view(page, 'Plans');
  const long = page.getByRole('region', { name: 'The plan long' });
  const target = long.getByRole('slider', { name: 'target 1, long' });
  await expect(target).toHaveAttribute('aria-valuenow', '30');
  await target.press('ArrowUp');
  await expect(page.getByTestId('plan-editor')).toContainText('target 1.1R for half');
  await expect(page.getByRole('region', { name: 'The plan short' })).toContainText('+1.10R');
  const handle = long.getByRole('slider', { name: 'stop, long' });
  const box = await handle.boundingBox();
  if (!box) throw new Error('the stop is drawn');
  await page.mouse.move(box.x + 40, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + 40, box.y + 30, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByTestId('plan-editor')).toContainText(/stop \d+(\.\d)?c/);
  await page.getByRole('slider', { name: 'Shares out after target 1' }).press('ArrowLeft');
  await expect(page.getByTestId('plan-editor')).toContainText('target 1.1R for 45%');
  await page.getByLabel('Name').fill('mine');
  await page.getByLabel('Name').press('Tab');
  await page.getByLabel('Entries from').fill('10:00');
  await page.getByLabel('Entries to').fill('11:00');
  await page.getByLabel('Entries to').press('Tab');
  await page.getByLabel('Stop, below 10 dollars').fill('25');
  await view(page, 'Desk');
  await ticket(page, 'buy 100 at usual through with plan "mine"');
  await expect(sayBack(page)).toContainText('The plan “mine” is for entries from 10:00 to 11:00');
  await ticket(page, 'buy risk 1R at usual through extended\n  stop usual');
  await expect(sayBack(page)).toContainText('buy 240 of VULPN');
  await page.reload();
  await view(page, 'Plans');
  await expect(page.getByRole('button', { name: /^mine/ })).toBeVisible();
});
