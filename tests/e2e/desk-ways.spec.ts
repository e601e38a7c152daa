import { expect, type Page, test } from '@playwright/test';
import { goTo, order, pick, position, sayBack, view } from './desk';

const chart = (page: Page) => page.getByRole('region', { name: /^Chart of/ });
const send = (page: Page) => page.getByRole('button', { name: 'Send (Enter)' }).click();

/** A place of the chart at a price, by the line of the last price and its tag. */
async function plot(page: Page) {
  const box = await chart(page).getByRole('application').boundingBox();
  if (!box) throw new Error('no chart');
  return box;
}

test('the chart alone: an entry pointed at with its exits before the click, its stop dragged, a line that an alert uses', async ({
  page,
}) => {
  await page.goto('/desk');
  await goTo(page, '09:36');
  const box = await plot(page);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await chart(page).getByRole('button', { name: '▲ buy' }).click();
  await page.mouse.move(x, y);
  await page.mouse.move(x + 4, y + 2);
  // Entry, stop and targets are on the chart before anything is sent.
  await expect(page.getByTestId('ghosts')).toContainText(/buy \d+/);
  await expect(page.getByTestId('ghosts')).toContainText('stop');
  await expect(sayBack(page)).toContainText(/buy \d+ of VULPN (at|above)/);
  await page.mouse.click(x + 4, y + 2);
  await send(page);
  await expect(position(page)).toContainText(/long \d+ at|buy waits/);
  await page.keyboard.press('x');
  await page.keyboard.press('f');
  // A price with a name: it stands on the chart, and sentences know it.
  await chart(page).getByRole('button', { name: '— line' }).click();
  await page.mouse.click(x, y - 30);
  await expect(sayBack(page)).toContainText('level "line 1" at');
  await expect(chart(page)).toContainText(/line 1 [\d.]+/);
  await chart(page).getByRole('button', { name: '◔ alert' }).click();
  await page.mouse.click(x, y - 30);
  await expect(sayBack(page)).toContainText('alert of VULPN at');
  // By the keyboard: the arrows choose the price, Enter takes it.
  await chart(page).getByRole('button', { name: '▼ short' }).click();
  await chart(page).getByRole('application').focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(sayBack(page)).toContainText(/short/);
  await page.keyboard.press('Escape');
  await expect(chart(page).getByRole('button', { name: '▼ short' })).toHaveAttribute('aria-pressed', 'false');
  // Any number of minutes, and more or fewer candles.
  await chart(page).getByLabel('Other minutes of a candle').fill('3');
  await page.mouse.move(x, y);
  await page.mouse.wheel(0, 200);
  await page.reload();
  await expect(chart(page).getByLabel('Other minutes of a candle')).toHaveValue('3');
});

test('the ticket as a form and as text are one sentence; arrow keys step; depth enters at a price; cards lead to their trades', async ({
  page,
}) => {
  await page.goto('/desk');
  const ticket = page.getByRole('region', { name: 'Ticket' });
  await ticket.getByRole('button', { name: 'as a form' }).click();
  const size = ticket.getByRole('textbox', { name: 'Size' });
  await size.fill('');
  await size.fill('150');
  await size.press('ArrowUp');
  await size.press('PageUp');
  await expect(size).toHaveValue('260');
  await pick(ticket.getByRole('combobox', { name: 'Price' }), 'limit');
  const price = ticket.getByRole('textbox', { name: 'Limit price' });
  const before = Number(await price.inputValue());
  await price.press('PageUp');
  expect(Number(await price.inputValue())).toBeCloseTo(before + 0.1, 6);
  await expect(ticket.getByRole('status', { name: 'The size four ways' })).toContainText(
    /260 · \$[\d,]+ · [\d.]+% · [\d.]+R/,
  );
  await ticket.getByRole('button', { name: 'as text' }).click();
  await expect(ticket.getByLabel('Ticket: an order sentence')).toContainText(
    `buy 260 at ${(before + 0.1).toFixed(2)} extended`,
  );
  await page.reload();
  await order(page, 'buy 100 at 5c through extended\n stop 30c');
  await expect(position(page)).toContainText('long 100 at');
  const cards = page.getByRole('region', { name: 'Trades of the day' });
  await expect(cards.getByRole('button', { name: /^VULPN: long 100/ })).toBeVisible();
  await page.getByRole('region', { name: 'Shortlist' }).getByRole('button', { name: /BRYXT/ }).click();
  await expect(page.getByTestId('focus-symbol')).toHaveText('BRYXT');
  // The best bid, by the depth.
  const depth = page.getByRole('region', { name: 'Depth and prints' });
  await depth
    .getByRole('button', { name: /^Buy at/ })
    .last()
    .click();
  await send(page);
  await expect(position(page)).toContainText(/buy waits|long/);
  await cards.getByRole('button', { name: /^VULPN: long 100/ }).click();
  await expect(page.getByTestId('focus-symbol')).toHaveText('VULPN');
});

test('anything is found by typing: a sentence, a symbol, a view, a key and why it is off', async ({
  page,
}) => {
  await page.goto('/desk');
  await expect(page.getByTestId('focus-symbol')).toHaveText('VULPN');
  await page.keyboard.press('F2');
  const palette = page.getByRole('dialog', { name: 'Find anything and do it' });
  const field = palette.getByRole('combobox');
  await field.fill('buy 100 at ask + 2c extended with plan "two steps"');
  await page.keyboard.press('Enter');
  await expect(sayBack(page)).toContainText(/buy 100 of VULPN at/);
  await page.keyboard.press('Escape');
  await page.keyboard.press('F2');
  await field.fill('bryxt');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('focus-symbol')).toHaveText('BRYXT');
  await page.keyboard.press('F2');
  await field.fill('stop to breakeven');
  // It is off, and says why.
  await expect(palette.getByRole('option', { name: /Stop to breakeven/ })).toContainText('⊘');
  await field.fill('legend');
  await page.keyboard.press('Enter');
  await expect(palette).toContainText('send one of what is staged');
  await expect(palette).toContainText('Buy half an R');
  await page.keyboard.press('Escape');
  await page.keyboard.press('F2');
  await field.fill('many days');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/rehearse/);
  await view(page, 'Desk');
  await page.keyboard.press('F2');
  await expect(palette.getByRole('option').first()).toContainText('Rehearse');
});
