import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import { clock, goTo, order, pick, position, sayBack, ticket, view } from './desk';

const send = (page: Page) => page.getByRole('button', { name: 'Send (Enter)' }).click();
const panel = (page: Page, name: string) => page.getByRole('tab', { name, exact: true }).click();
const arrange = async (page: Page, name: string) => {
  await page.getByLabel('Arrangements of the Desk').first().click();
  await page.getByRole('button', { name, exact: true }).click();
  await page.keyboard.press('Escape');
};
const ladder = (page: Page) => page.getByRole('region', { name: 'Ladder' });
const orders = (page: Page) => page.getByRole('region', { name: 'Orders', exact: true });
const run60 = (page: Page) => page.getByRole('button', { name: 'Run at 60 times' }).click();

test('the ladder alone: an entry at a price, moved to another, filled, a half closed, all out', async ({
  page,
}) => {
  await page.goto('/desk');
  await goTo(page, '09:36');
  await panel(page, 'Ladder');
  // The best bid: an order rests there with its exits to come, and is seen at its price.
  const bids = ladder(page).getByRole('button', { name: /^Bid side at .*, [1-9]/ });
  const best = await bids.first().getAttribute('aria-label');
  await bids.nth(3).click();
  await send(page);
  await expect(position(page)).toContainText('buy waits');
  const own = ladder(page).getByRole('slider', { name: /^entry of/ });
  await expect(own).toBeVisible();
  const from = Number(await own.getAttribute('aria-valuetext'));
  // Dragged two rows up; then bought at the ask.
  const box = await own.boundingBox();
  if (!box) throw new Error('no order on the ladder');
  await page.mouse.move(box.x + 5, box.y + 7);
  await page.mouse.down();
  await page.mouse.move(box.x + 5, box.y + 7 - 2 * 19, { steps: 4 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Move (Enter)' }).click();
  await expect.poll(async () => Number(await own.getAttribute('aria-valuetext'))).toBeCloseTo(from + 0.02, 6);
  await own.focus();
  await page.keyboard.press('Delete');
  await expect(own).toHaveCount(0);
  const asks = ladder(page).getByRole('button', { name: /^Ask side at .*, [1-9]/ });
  const offer = /at ([\d.]+),/.exec((await asks.last().getAttribute('aria-label')) ?? '')?.[1];
  expect(best).not.toContain(`at ${offer},`);
  await ladder(page)
    .getByRole('button', { name: new RegExp(`^Bid side at ${offer},`) })
    .click();
  await send(page);
  await expect(position(page)).toContainText(/long \d+ at/);
  await ladder(page).getByRole('button', { name: 'A press closes: half' }).click();
  const bid = /at ([\d.]+),/.exec(best ?? '')?.[1];
  await ladder(page)
    .getByRole('button', { name: new RegExp(`^Ask side at ${bid},`) })
    .click();
  await expect(sayBack(page)).toContainText(/sold|Done/);
  await ladder(page).getByRole('button', { name: 'flatten' }).click();
  await expect(position(page)).toContainText('flat in VULPN');
});

test('the chart alone: pointed at and filled, its stop dragged, a half out, all out', async ({ page }) => {
  await page.goto('/desk');
  await goTo(page, '09:36');
  const chart = page.getByRole('region', { name: /^Chart of/ });
  const box = await chart.getByRole('application').boundingBox();
  if (!box) throw new Error('no chart');
  await chart.getByRole('button', { name: '▲ buy' }).click();
  // Between the last price and the low of the day so far: it fills as the price comes there.
  await page.mouse.move(box.x + 300, box.y + box.height / 2);
  await page.mouse.click(box.x + 302, box.y + box.height / 2 + 2);
  await send(page);
  await run60(page);
  await expect(position(page)).toContainText(/long \d+ at/, { timeout: 90_000 });
  await page.getByRole('button', { name: 'Pause' }).click();
  const held = async () => Number(/long (\d+) at/.exec(await position(page).innerText())?.[1] ?? 0);
  const all = await held();
  const stop = chart.getByRole('slider', { name: /^stop of/ });
  const line = await stop.boundingBox();
  if (!line) throw new Error('no stop on the chart');
  await page.mouse.move(line.x + 60, line.y + line.height / 2);
  await page.mouse.down();
  await page.mouse.move(line.x + 60, line.y + line.height / 2 + 12, { steps: 4 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Move (Enter)' }).click();
  // Farther away than its R: asked once more.
  await expect(sayBack(page)).toContainText('would go farther away');
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await expect(sayBack(page)).toContainText('Done');
  await chart.getByRole('button', { name: '½ out' }).click();
  await expect.poll(held).toBe(Math.ceil(all / 2));
  await chart.getByRole('button', { name: 'flatten' }).click();
  await expect(position(page)).toContainText('flat in VULPN');
});

test('the ticket alone: sized in R with exits, a part sold, the rest covered by what follows the position', async ({
  page,
}) => {
  await page.goto('/desk');
  await goTo(page, '09:36');
  const region = page.getByRole('region', { name: 'Ticket' });
  await region.getByRole('button', { name: 'as a form' }).click();
  await region.getByRole('button', { name: 'More of the ticket' }).click();
  await page.getByRole('checkbox', { name: 'the side follows the position' }).check();
  await page.keyboard.press('Escape');
  await pick(region.getByRole('combobox', { name: 'Size in' }), 'R');
  await region.getByRole('textbox', { name: 'Size' }).fill('1');
  await pick(region.getByRole('combobox', { name: 'Price' }), 'usual through');
  await expect(region.getByRole('status', { name: 'The size four ways' })).toContainText(/1\.0\dR|0\.9\dR/);
  await region.getByRole('button', { name: 'Buy', exact: true }).click();
  await send(page);
  await expect(position(page)).toContainText(/long \d+ at/);
  // The side follows; a part is chosen; the key sends it.
  await expect(region.getByRole('combobox', { name: 'Side' })).toHaveText('sell');
  await pick(region.getByRole('combobox', { name: 'Size' }).first(), 'half');
  await region.getByRole('combobox', { name: 'Life' }).focus();
  await page.keyboard.press('Alt+s');
  await expect(sayBack(page)).toContainText(/sold \d+ VULPN/);
  await pick(region.getByRole('combobox', { name: 'Size' }).first(), 'all');
  await region.getByRole('button', { name: 'Sell', exact: true }).click();
  await expect(position(page)).toContainText('flat in VULPN');
  // What waits is written in the same form, and stands in the table of orders.
  await region.getByRole('textbox', { name: 'When it goes' }).fill('last >= 99');
  await region.getByRole('button', { name: 'Buy', exact: true }).click();
  await send(page);
  await panel(page, 'Orders');
  await expect(orders(page).getByRole('row').filter({ hasText: 'when last >= 99' })).toBeVisible();
});

test('orders in one table: a price and a size changed where they stand, several canceled at once, one loaded into the ticket', async ({
  page,
}) => {
  await page.goto('/desk');
  await goTo(page, '09:36');
  // A price of the depth goes into the ticket.
  await page
    .getByRole('button', { name: /into the ticket$/ })
    .first()
    .click();
  await expect(page.getByLabel('Ticket: an order sentence')).toContainText(/buy 100 at \d+\.\d\d extended/);
  await order(page, 'buy 100 at bid - 30c');
  await order(page, 'buy 200 at bid - 40c');
  await panel(page, 'Orders');
  const rows = orders(page).getByRole('row');
  await expect(rows).toHaveCount(3);
  await orders(page)
    .getByRole('button', { name: /^Price of order 1:/ })
    .click();
  const price = orders(page).getByRole('textbox', { name: 'Price of order 1' });
  const to = (Number(await price.inputValue()) + 0.05).toFixed(2);
  await price.fill(to);
  await price.press('Enter');
  await expect(orders(page).getByRole('button', { name: `Price of order 1: ${to}` })).toBeVisible();
  await orders(page)
    .getByRole('button', { name: /^Size of order 1:/ })
    .click();
  await orders(page).getByRole('textbox', { name: 'Size of order 1' }).fill('150');
  await page.keyboard.press('Enter');
  if (await page.getByRole('button', { name: 'Send (Enter)' }).isVisible()) await send(page);
  await expect(orders(page).getByRole('button', { name: 'Size of order 1: 150' })).toBeVisible();
  // Another life, by its sentence.
  await orders(page).getByRole('button', { name: 'Sentence of order 1: entry' }).click();
  await orders(page).getByRole('textbox', { name: 'Sentence of order 1' }).fill(`buy 150 at ${to} gtc`);
  await page.keyboard.press('Enter');
  await expect(orders(page).getByRole('row').filter({ hasText: 'gtc' })).toHaveCount(1);
  await orders(page).getByRole('button', { name: 'Load order 1 into the ticket' }).click();
  await expect(page.getByLabel('Ticket: an order sentence')).toContainText(`buy 150 at ${to}`);
  for (const id of [1, 2])
    await orders(page)
      .getByRole('checkbox', { name: `Choose order ${id}` })
      .check();
  await orders(page).getByRole('button', { name: 'Cancel 2 chosen' }).click();
  await expect(rows).toHaveCount(1);
  await orders(page)
    .getByRole('button', { name: /^ended/ })
    .click();
  await expect(rows).toHaveCount(3);
});

test('a level and a trend line drawn by hand trigger orders; drawings are moved, undone and cleared', async ({
  page,
}) => {
  await page.goto('/desk');
  await goTo(page, '09:36');
  const chart = page.getByRole('region', { name: /^Chart of/ });
  const box = await chart.getByRole('application').boundingBox();
  if (!box) throw new Error('no chart');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await chart.getByRole('button', { name: '— line' }).click();
  await page.mouse.click(x, y);
  await expect(sayBack(page)).toContainText('level "line 1"');
  const level = Number(/level "line 1" at ([\d.]+)/.exec(await sayBack(page).innerText())?.[1]);
  const last = Number(await page.getByTestId('last-price').innerText());
  const way = level > last ? '>=' : '<=';
  await order(page, `when last ${way} level "line 1": buy 50 at 5c through\n stop 50c`);
  await run60(page);
  await expect(position(page)).toContainText(/long 50 at/, { timeout: 60_000 });
  await page.keyboard.press('f');
  await expect(position(page)).toContainText('flat');
  await page.getByRole('button', { name: 'Pause' }).click();
  // A tool in hand is let go of when another symbol comes: what is begun on one is not finished on another.
  const line = chart.getByRole('button', { name: '— line' });
  const shortlist = page.getByRole('region', { name: 'Shortlist' });
  await line.click();
  await expect(line).toHaveAttribute('aria-pressed', 'true');
  await shortlist.getByRole('button', { name: /BRYXT/ }).click();
  await expect(line).toHaveAttribute('aria-pressed', 'false');
  await shortlist.getByRole('button', { name: /VULPN/ }).click();
  await expect(chart).toHaveAccessibleName('Chart of VULPN');
  // A trend line through two points of today is a level that moves; the sentence names both.
  await chart.getByRole('button', { name: 'Draw', exact: true }).click();
  await page.getByRole('button', { name: 'Trend line', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.mouse.click(box.x + 120, y + 20);
  await page.mouse.click(box.x + 360, y - 30);
  await expect(sayBack(page)).toContainText(
    /level "trend 1" .*from [\d.]+ at \d\d:\d\d to [\d.]+ at \d\d:\d\d/,
  );
  await ticket(page, 'alert when last >= level "trend 1"');
  await expect(sayBack(page)).toContainText(/Done|Not sent/);
  // A retracement is drawn, chosen, moved by the keyboard, and gone by undo; everything goes by one sentence, and comes back.
  await chart.getByRole('button', { name: 'Draw', exact: true }).click();
  await page.getByRole('button', { name: 'Fibonacci retracement' }).click();
  await page.keyboard.press('Escape');
  await page.mouse.click(box.x + 160, y + 60);
  await page.mouse.click(box.x + 300, y - 60);
  const drawn = chart.getByRole('group', { name: 'Drawn on the chart' });
  await expect(drawn).toContainText('61.8 %');
  const fib = drawn.getByRole('slider', { name: 'fibonacci on the chart' });
  await fib.focus();
  const before = await fib.getAttribute('aria-valuetext');
  await page.keyboard.press('ArrowUp');
  await expect(fib).not.toHaveAttribute('aria-valuetext', before ?? '');
  await page.keyboard.press('Control+z');
  await expect(fib).toHaveAttribute('aria-valuetext', before ?? '');
  await ticket(page, 'clear drawings');
  await expect(drawn.getByRole('slider')).toHaveCount(0);
  await chart.getByRole('application').click({ position: { x: 40, y: 300 } });
  await chart.getByRole('button', { name: 'Draw', exact: true }).click();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(drawn.getByRole('slider')).toHaveCount(3);
  await page.reload();
  await expect(chart.getByRole('group', { name: 'Drawn on the chart' }).getByRole('slider')).toHaveCount(3);
});

test('four charts: linked and pinned, each with its candles; an arrangement is named, kept over a reload, and brought to a clean profile', async ({
  page,
  browser,
}) => {
  await page.goto('/desk');
  await arrange(page, 'Four charts');
  const charts = page.getByRole('region', { name: /^Chart of/ });
  await expect(charts).toHaveCount(4);
  await charts.nth(1).getByRole('button', { name: 'Follows the focus' }).click();
  await page.getByRole('textbox', { name: 'Symbol to pin' }).fill('orbnt');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('region', { name: 'Chart of ORBNT' })).toHaveCount(1);
  // A line on the pinned chart is a level of its symbol.
  const lines: number[] = [];
  const pinned = page.getByRole('region', { name: 'Chart of ORBNT' });
  await pinned.getByRole('button', { name: '— line' }).click();
  const box = await pinned.getByRole('application').boundingBox();
  if (!box) throw new Error('no chart');
  await page.mouse.click(box.x + 100, box.y + 60);
  await expect(sayBack(page)).toContainText('(of ORBNT)');
  // By the keyboard it is drawn at a price of its own symbol, a step at a time.
  const said = async () => Number(/level "line \d".* at ([\d.]+)/.exec(await sayBack(page).innerText())?.[1]);
  for (const [steps, name] of [
    [0, 'line 2'],
    [3, 'line 3'],
  ] as const) {
    await pinned.getByRole('button', { name: '— line' }).click();
    await pinned.getByRole('application').focus();
    for (let k = 0; k <= steps; k++) await page.keyboard.press(k === 0 ? 'ArrowDown' : 'ArrowUp');
    await page.keyboard.press('Enter');
    await expect(sayBack(page)).toContainText(name);
    lines.push(await said());
  }
  expect(lines[1]).toBeCloseTo((lines[0] as number) + 0.03, 2);
  await page.getByLabel('Arrangements of the Desk').first().click();
  await page.getByRole('button', { name: 'Arrange …' }).click();
  const bar = page.getByRole('region', { name: 'Arrange the Desk' });
  await bar.getByRole('button', { name: 'Copy' }).click();
  await bar.getByRole('textbox', { name: 'Name' }).fill('Mine, four');
  // A panel is closed by the keyboard and another one added.
  await page.getByRole('tab', { name: 'Ladder' }).focus();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('tab', { name: 'Ladder' })).toHaveCount(0);
  await bar.getByRole('button', { name: 'Trade so far' }).click();
  await expect(page.getByRole('tab', { name: 'Trade so far' })).toBeVisible();
  const download = page.waitForEvent('download');
  await bar.getByRole('button', { name: 'Export' }).click();
  const file = await (await download).path();
  await bar.getByRole('button', { name: 'Done' }).click();
  await page.reload();
  await expect(page.getByRole('region', { name: 'Chart of ORBNT' })).toHaveCount(1);
  await expect(page.getByRole('tab', { name: 'Trade so far' })).toBeVisible();
  await page.close();

  const clean = await browser.newContext();
  const other = await clean.newPage();
  await other.goto('/desk');
  await other.getByLabel('Arrangements of the Desk').first().click();
  await other.getByRole('button', { name: 'Arrange …' }).click();
  await other.getByLabel('File of an arrangement').setInputFiles({
    name: 'bad.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"keen-fox-scripts"}'),
  });
  await expect(other.getByRole('alert').filter({ hasText: 'not a file of an arrangement' })).toBeVisible();
  await other.getByLabel('File of an arrangement').setInputFiles({
    name: 'mine.json',
    mimeType: 'application/json',
    buffer: await readFile(file),
  });
  await expect(other.getByRole('textbox', { name: 'Name' })).toHaveValue('Mine, four');
  await expect(other.getByRole('region', { name: /^Chart of/ })).toHaveCount(4);
  await expect(other.getByRole('region', { name: 'Chart of ORBNT' })).toHaveCount(1);
  await other.keyboard.press('F8');
  await expect(other.getByRole('region', { name: /^Chart of/ })).toHaveCount(1);
  await clean.close();
});

test('a second window shows panels of the same session: its keys and presses go to the one writer', async ({
  page,
}) => {
  await page.goto('/desk');
  await expect(page.getByTestId('depth')).toBeVisible();
  await page.getByLabel('Arrangements of the Desk').first().click();
  await page.getByRole('button', { name: 'Arrange …' }).click();
  const popup = page.waitForEvent('popup');
  await page.getByRole('button', { name: 'Second window' }).click();
  const second = await popup;
  const chart = second.getByRole('region', { name: /^Chart of/ });
  await expect(chart).toBeVisible();
  // A key pressed there says the same in both, and goes once.
  await second.getByRole('heading', { name: 'Second window' }).evaluate((h) => h.ownerDocument.body.focus());
  await second.keyboard.press('q');
  await expect(second.getByLabel('Say-back')).toContainText(/Buy 1R:.*buy \d+ of VULPN/);
  await expect(sayBack(page)).toContainText(/Buy 1R:.*buy \d+ of VULPN/);
  await second.keyboard.press('Enter');
  await expect(position(page)).toContainText(/long \d+ at|buy waits/);
  // It stays while the first shows another view.
  await view(page, 'Review');
  await expect(chart).toBeVisible();
  await view(page, 'Desk');
  // Closed, its panels come back to the first window.
  await second.close({ runBeforeUnload: true });
  await expect(
    page
      .getByRole('region', { name: /^Chart of/ })
      .or(page.getByRole('tab', { name: 'Chart 2' }))
      .first(),
  ).toBeVisible();
});

test('the first ten minutes: each step is done by doing it, can be left and taken up again', async ({
  page,
}) => {
  await page.goto('/scan');
  const guide = page.getByLabel('First ten minutes');
  await expect(guide).toContainText('1 of 8');
  await page.getByRole('grid').getByText('BRYXT').first().click();
  await expect(guide).toContainText('2 of 8');
  await guide.getByRole('link', { name: 'Go there' }).click();
  await expect(guide).toContainText('3 of 8');
  await page.keyboard.press('Shift+q');
  await expect(guide).toContainText('4 of 8');
  await guide.getByRole('button', { name: 'Leave' }).click();
  await expect(guide).toHaveCount(0);
  await page.keyboard.press('F2');
  await page.getByRole('combobox').fill('first ten');
  await page.keyboard.press('Enter');
  await expect(guide).toContainText('4 of 8');
  await page.keyboard.press('q');
  await expect(sayBack(page)).toContainText('Buy 1R:');
  await page.keyboard.press('Enter');
  await run60(page);
  await expect(guide).toContainText('5 of 8', { timeout: 60_000 });
  await guide.getByRole('button', { name: 'Skip' }).click();
  await page.keyboard.press('f');
  await expect(guide).toContainText('8 of 8', { timeout: 60_000 });
  await view(page, 'Review');
  await expect(guide).toContainText('That was a whole trade');
  await guide.getByRole('button', { name: 'Done' }).click();
  await expect(guide).toHaveCount(0);
  await expect(clock(page)).toBeVisible();
});

test('no accessibility violation on any arrangement, at rest and while it is arranged, with a trade and orders', async ({
  page,
}) => {
  await page.goto('/desk');
  await order(page, 'buy 100 at 5c through extended\n stop 30c\n target 60c');
  for (const name of ['One screen', 'Wide', 'Prepare', 'Four charts', 'Keys and one chart']) {
    await arrange(page, name);
    await expect(page.getByRole('region', { name: /^Chart of/ }).first()).toBeVisible();
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(
      violations.map((v) => `${name}: ${v.id} ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`),
    ).toEqual([]);
  }
  await arrange(page, 'One screen');
  for (const tab of ['Ladder', 'Orders', 'Trade so far']) {
    await panel(page, tab);
    await expect(page.getByText('on its way')).toHaveCount(0);
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(
      violations.map((v) => `${tab}: ${v.id} ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`),
    ).toEqual([]);
  }
  await page.getByLabel('Arrangements of the Desk').first().click();
  await page.getByRole('button', { name: 'Arrange …' }).click();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(
    violations.map((v) => `arranging: ${v.id} ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`),
  ).toEqual([]);
});
