import { expect, type Page, test } from '@playwright/test';
import { clock, goTo, order, sayBack, view } from './desk';

const chain = (page: Page) => page.getByRole('table', { name: /^Chain of/ });
const hand = (page: Page) => page.getByRole('region', { name: 'Contract in hand' });
const focusOn = async (page: Page, symbol: string) => {
  await page.keyboard.press('F2');
  await page.getByRole('dialog', { name: 'Find anything and do it' }).getByRole('combobox').fill(symbol);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('focus-symbol')).toHaveText(symbol);
};

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
  await page.goto('/options');
  await expect(chain(page)).toBeVisible({ timeout: 60_000 });
  await focusOn(page, 'FOXID');
  await expect(chain(page)).toHaveAccessibleName(/FOXID/, { timeout: 60_000 });
  await page.getByRole('button', { name: 'To the open' }).click();
  await expect(clock(page)).toHaveText('09:30:00', { timeout: 60_000 });
  await goTo(page, '09:40');
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
    'short 1 vertical of FOXID 38 days 30 delta 5 wide put at mid - 3c credit\n once filled: close all at half the credit gtc',
  );
  await expect(page.getByRole('region', { name: 'What may come of the ticket' })).toBeVisible();
  await view(page, 'Desk');
  const toNextFill = async () => {
    await page.getByRole('button', { name: 'Go to…' }).click();
    await page.getByRole('button', { name: 'To my next fill' }).click();
  };
  await toNextFill();
  await expect(
    page.getByRole('button', { name: /FOXID 2027-04-16 [\d.]+\/[\d.]+ put: short 1 at/ }),
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
