import { expect, type Page, test } from '@playwright/test';
import { clock, goTo, order, sayBack, smallMarket, ticket, view } from './desk';

const chain = (page: Page) => page.getByRole('table', { name: /^Chain of/ });
const hand = (page: Page) => page.getByRole('region', { name: 'Contract in hand' });
const focusOn = async (page: Page, symbol: string) => {
  await page.keyboard.press('F2');
  await page.getByRole('dialog', { name: 'Find anything and do it' }).getByRole('combobox').fill(symbol);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('focus-symbol')).toHaveText(symbol);
};

/** The chain of the index stand-in, ten minutes after the open. */
async function indexAfterTheOpen(page: Page) {
  await smallMarket(page);
  await page.goto('/options');
  await expect(chain(page)).toBeVisible({ timeout: 60_000 });
  await focusOn(page, 'FOXID');
  await page.getByRole('button', { name: 'To the open' }).click();
  await expect(clock(page)).toHaveText('09:30:00', { timeout: 60_000 });
  await goTo(page, '09:40');
}

test('a call is bought from the chain, seen as a card and in the chain, and sold by a press on its bid', async ({
  page,
}) => {
  await page.goto('/options');
  await expect(chain(page)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'To the open' }).click();
  await expect(clock(page)).toHaveText('09:30:00', { timeout: 60_000 });
  await goTo(page, '09:40');
  await page
    .getByRole('group', { name: 'Expiries' })
    .getByRole('button', { name: /^16 Apr/ })
    .click();
  await expect(chain(page)).toHaveAccessibleName(/2027-04-16/);
  const ask = page.getByRole('button', { name: /^ask .* of the 6\.00 call$/ });
  // By the keyboard: from price to price with the arrows, Enter presses.
  await ask.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowDown');
  await expect(ask).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(hand(page)).toContainText('6.00 call');
  await expect(page.getByLabel('Ticket: an order sentence')).toContainText(
    'buy 1 of VULPN 2027-04-16 6 call at ask',
  );
  await page.getByRole('button', { name: 'Send (Ctrl+Enter)' }).click();
  await expect(sayBack(page)).toContainText(/buy 1 of VULPN 2027-04-16 6 call at/);
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await expect(sayBack(page)).toContainText('bought 1 VULPN 2027-04-16 6 call');
  await expect(chain(page).getByRole('row', { name: /6\.00/ })).toContainText('+1');
  await view(page, 'Desk');
  await expect(page.getByRole('button', { name: /VULPN 2027-04-16 6 call: long 1/ })).toBeVisible();
  await view(page, 'Options');
  await page
    .getByRole('group', { name: 'Expiries' })
    .getByRole('button', { name: /^16 Apr/ })
    .click();
  await page.getByRole('button', { name: /^bid .* of the 6\.00 call$/ }).click();
  await expect(page.getByLabel('Ticket: an order sentence')).toContainText(
    'close all of VULPN 2027-04-16 6 call at bid',
  );
  await page.getByRole('button', { name: 'Send (Ctrl+Enter)' }).click();
  await expect(chain(page).getByRole('row', { name: /6\.00/ })).not.toContainText('+1');
});

test('a credit vertical is made of two strikes and sold; its closing order is placed by itself, filled days later by running on', async ({
  page,
}) => {
  await indexAfterTheOpen(page);
  await expect(chain(page)).toHaveAccessibleName(/FOXID/);
  const expiry = page.getByRole('group', { name: 'Expiries' }).getByRole('button', { name: /^16 Apr/ });
  await expiry.click();
  await expect(chain(page)).toHaveAccessibleName(/2027-04-16/);
  const bids = chain(page).getByRole('button', { name: /^bid [\d.]+ of the .* put$/ });
  await bids.nth(2).click();
  await expect(page.getByLabel('Ticket: an order sentence')).toContainText(
    /short 1 of FOXID 2027-04-16 [\d.]+ put at bid/,
  );
  await bids.nth(1).click({ modifiers: ['Shift'] });
  await expect(page.getByLabel('Ticket: an order sentence')).toContainText(
    /short 1 of FOXID 2027-04-16 [\d.]+\/[\d.]+ put at mid credit/,
  );
  await order(
    page,
    'short 1 vertical of FOXID 17 days 30 delta 5 wide put at mid - 3c credit\n once filled: close all at half the credit gtc',
  );
  await expect(page.getByRole('region', { name: 'What may come of the ticket' })).toBeVisible();
  await view(page, 'Desk');
  const toNextFill = async () => {
    await page.getByRole('button', { name: 'Go to…' }).click();
    await page.getByRole('button', { name: 'To my next fill' }).click();
  };
  await toNextFill();
  await expect(
    page.getByRole('button', { name: /FOXID 2027-\d\d-\d\d [\d.]+\/[\d.]+ put: short 1 at/ }),
  ).toBeVisible({
    timeout: 60_000,
  });
  // Night after night, until the closing order has filled by itself.
  await toNextFill();
  await expect(page.getByRole('button', { name: /put: short 1 at [\d.]+, over, \+\$/ })).toBeVisible({
    timeout: 100_000,
  });
  await view(page, 'Review');
  await expect(page.getByRole('main')).toContainText(/FOXID/);
});

test('a three-minute close of the underlying buys a call, sold at the underlying’s price or at 20 %, whichever comes first', async ({
  page,
}) => {
  await indexAfterTheOpen(page);
  await order(
    page,
    'when 3m close > 1.00: buy 1 of 10 days at the money call at ask + 10c\n target 20%\n once filled when last <= 395.00 until cancelled: close all at bid - 10c',
  );
  await expect(sayBack(page)).toContainText('when 3m close > 1.00: buy 1 of FOXID 10 days at the money call');
  await view(page, 'Desk');
  const fill = async () => {
    await page.getByRole('button', { name: 'Go to…' }).click();
    await page.getByRole('button', { name: 'To my next fill' }).click();
  };
  await fill();
  await expect(page.getByRole('button', { name: /FOXID 2027-03-19 400 call: long 1 at/ })).toBeVisible({
    timeout: 60_000,
  });
  // What was bought is what the condition waits for now, beside the target.
  await page.getByRole('button', { name: 'Waiting orders: 1' }).click();
  await expect(page.getByRole('list', { name: 'Waiting orders', exact: true })).toContainText(
    'when last <= 395.00 until cancelled: close all of FOXID 2027-03-19 400 call at bid - 10c',
  );
  await page.keyboard.press('Escape');
  await fill();
  await expect(
    page.getByRole('button', { name: /FOXID 2027-03-19 400 call: long 1 at [\d.]+, over/ }),
  ).toBeVisible({
    timeout: 100_000,
  });
  await expect(page.getByRole('button', { name: 'Waiting orders: none' })).toBeVisible();
});

test('a vertical waits for a pull-back over a night, is changed, its order stepped, replaced and taken back', async ({
  page,
}) => {
  await indexAfterTheOpen(page);
  await order(
    page,
    'when last <= 200.00 until cancelled: short 1 vertical of 45 days 30 delta 5 wide put at mid + 60c credit gtc',
  );
  await page.getByRole('button', { name: 'Next day' }).click();
  await expect(page.getByText('2027-03-10').first()).toBeVisible({ timeout: 60_000 });
  await goTo(page, '09:45');
  await page.getByRole('button', { name: 'Waiting orders: 1' }).click();
  const list = page.getByRole('list', { name: 'Waiting orders', exact: true });
  await expect(list).toContainText('45 days 30 delta 5 wide put at mid + 60c credit gtc');
  // Changed to one that is true at the next trade: limit, life and all else stay.
  await list.getByRole('button', { name: 'Edit' }).click();
  const box = page.getByLabel('Condition 1');
  await box.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.insertText(
    'when 1m close >= 200.00 until cancelled: short 1 vertical of FOXID 45 days 30 delta 5 wide put at mid + 60c credit gtc',
  );
  await page.getByRole('button', { name: 'Save' }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await expect(sayBack(page)).toContainText('Done');
  await goTo(page, '09:47');
  const held = page.getByRole('region', { name: 'Options held and working' });
  const working = held.getByRole('listitem');
  await expect(working).toHaveCount(1);
  const sentence = working.locator('code');
  await expect(sentence).toContainText(/short 1 of FOXID 2027-04-16 [\d.]+\/[\d.]+ put at [\d.]+ credit gtc/);
  const priceOf = async () => Number(/at ([\d.]+) credit/.exec((await sentence.textContent()) ?? '')?.[1]);
  const before = await priceOf();
  await working.getByRole('button', { name: /a step up/ }).click();
  await expect(sentence).toContainText(`at ${(before + 0.01).toFixed(2)} credit gtc`);
  const symbol = /of (FOXID .* put)/.exec((await sentence.textContent()) ?? '')?.[1] as string;
  await ticket(page, `replace last of ${symbol} with short 1 at ${(before + 0.2).toFixed(2)} credit gtc`);
  await expect(sentence).toContainText(`at ${(before + 0.2).toFixed(2)} credit gtc`);
  await working.getByRole('button', { name: 'Cancel' }).click();
  await expect(held).toHaveCount(0);
});
