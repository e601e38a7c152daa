import { type BrowserContext, expect, type Page, test } from '@playwright/test';
import { pick } from './desk';

const clock = (page: Page) => page.getByTestId('clock');
const position = (page: Page) => page.getByTestId('position');
const sayBack = (page: Page) => page.getByLabel('Say-back');
const view = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name, exact: true }).click();

/** Everything that was acknowledged, as the Desk shows it: time, position, exits with their sizes and prices, money. */
async function standing(page: Page): Promise<string> {
  const sliders = page.getByRole('group', { name: 'R ruler' }).getByRole('slider');
  const exits = await sliders.evaluateAll((all) =>
    all.map((e) => `${e.getAttribute('aria-label')} at ${e.getAttribute('aria-valuenow')}`).sort(),
  );
  const account = await page
    .getByRole('region', { name: 'Focus, account and keys' })
    .locator('.num')
    .allInnerTexts();
  return JSON.stringify([
    await clock(page).innerText(),
    await position(page).innerText(),
    exits,
    account.slice(2),
  ]);
}

async function ready(page: Page, path = '/desk') {
  await page.goto(path);
  await expect(page.getByTestId('depth')).toBeVisible({ timeout: 90_000 });
}

/** The tab dies without a word, and another one is opened. */
async function killed(context: BrowserContext, page: Page): Promise<Page> {
  await page.close({ runBeforeUnload: false });
  const next = await context.newPage();
  await ready(next);
  return next;
}

async function line(page: Page, what: 'Cut the line' | 'Mend the line') {
  await view(page, 'Setup');
  await page.getByRole('button', { name: what }).click();
  await expect(
    page.getByRole('button', { name: what === 'Cut the line' ? 'Mend the line' : 'Cut the line' }),
  ).toBeVisible();
  await view(page, 'Desk');
  await expect(page.getByTestId('depth')).toBeVisible();
}

/** Reloads, kills and cuts off; whatever it was, the same stands there as before. */
async function survives(context: BrowserContext, page: Page): Promise<Page> {
  const before = await standing(page);
  await page.reload();
  await expect(page.getByTestId('depth')).toBeVisible();
  await expect.poll(() => standing(page)).toBe(before);
  const next = await killed(context, page);
  await expect.poll(() => standing(next)).toBe(before);
  await line(next, 'Cut the line');
  await next.reload();
  await expect(next.getByText('■ line cut')).toBeVisible();
  await line(next, 'Mend the line');
  await expect.poll(() => standing(next)).toBe(before);
  return next;
}

test('a bracket lives through reloads, kills and a cut line at each step of its life; nothing is sent twice', async ({
  context,
  page: first,
}) => {
  test.setTimeout(240_000);
  let page = first;
  await ready(page);

  // What is sent on a cut line is held, is still held after a kill, and goes once when the line stands.
  await line(page, 'Cut the line');
  await page.keyboard.press('q');
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await expect(sayBack(page)).toContainText('The line to the exchange is cut: this waits here');
  await expect(position(page)).toHaveText('buy waits');
  page = await killed(context, page);
  await expect(position(page)).toHaveText('buy waits');
  await line(page, 'Mend the line');
  await expect(position(page)).toContainText('long 200 at');
  await expect(page.getByRole('slider', { name: /^stop of 200$/ })).toBeVisible();
  page = await survives(context, page);

  // On a slow line a change is drawn as asked until it is answered, also after a kill.
  await view(page, 'Setup');
  await pick(page.getByRole('combobox', { name: 'Time a message takes' }), 'a bad line, 0.5 to 2 s');
  await view(page, 'Desk');
  await page.getByRole('slider', { name: /^target 2 of 100$/ }).press('ArrowRight');
  await page.getByRole('button', { name: 'Move (Enter)' }).click();
  await expect(page.getByRole('slider', { name: /^target 2 … of 100$/ })).toBeVisible();
  page = await killed(context, page);
  await expect(page.getByRole('slider', { name: /^target 2 … of 100$/ })).toBeVisible();
  for (let k = 0; k < 5; k++) await page.getByRole('button', { name: 'Step one second' }).click();
  await expect(page.getByRole('slider', { name: /^target 2 of 100$/ })).toBeVisible();
  await view(page, 'Setup');
  await pick(
    page.getByRole('combobox', { name: 'Time a message takes' }),
    'none: answered in the same moment',
  );
  await view(page, 'Desk');

  // The first target fills after the open; the rest is protected for its size, then at breakeven.
  await page.getByRole('button', { name: 'To the open' }).click();
  await expect(clock(page)).toHaveText('09:30:00');
  await page.getByRole('button', { name: 'Run at 20 times' }).click();
  await expect(position(page)).toContainText('long 100 at', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByRole('button', { name: 'Run', exact: true })).toBeVisible();
  await expect(page.getByRole('slider', { name: /^stop of 100$/ })).toBeVisible();
  page = await survives(context, page);

  await page.keyboard.press('f');
  await expect(position(page)).toHaveText('flat in VULPN');
  await expect(sayBack(page)).toContainText(
    /sold 100 VULPN at [\d.]+\s*VULPN is flat: out at [\d.]+ on average, [+-]\$[\d.]+ after costs/,
  );
  page = await survives(context, page);
  await view(page, 'Review');
  await expect(page.getByTestId('trade-row')).toHaveCount(1);
  await expect(page.getByTestId('trade-row')).toContainText('long VULPN');
});

test('long work that is killed on its way leaves what was before; work that is ended on its way can be begun again', async ({
  context,
  page: first,
}) => {
  test.setTimeout(300_000);
  let page = first;
  await ready(page);
  await page.keyboard.press('q');
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await expect(position(page)).toContainText('long 200 at');
  const before = await standing(page);

  // Another day, and an earlier moment of this one: killed while they are set up, nothing has changed.
  // (A day that the server has made is there at once.)
  await context.route('**/start?*', (route) => route.abort());
  await page.goto('/days');
  await page.getByRole('button', { name: 'Practise: Low float, volatility pauses' }).click();
  await expect(page.getByRole('status', { name: 'Work under way' })).toBeVisible();
  page = await killed(context, page);
  await expect.poll(() => standing(page)).toBe(before);
  await page.getByRole('button', { name: 'Go to…' }).click();
  await page.getByRole('textbox', { name: 'Go to' }).fill('09:05');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status', { name: 'Work under way' })).toBeVisible();
  page = await killed(context, page);
  await expect.poll(() => standing(page)).toBe(before);

  // The rest of the day: ended on its way it stands there, and what happened until then is kept; asked again it goes on.
  await page.getByRole('button', { name: 'Next day' }).click();
  await page.getByRole('button', { name: 'Stop here' }).click();
  await expect(page.getByRole('status', { name: 'Work under way' })).toBeHidden();
  const stands = await clock(page).innerText();
  expect(stands > '09:10:00' && stands < '20:00:00').toBe(true);
  page = await killed(context, page);
  await expect(clock(page)).toHaveText(stands);
  await page.getByRole('button', { name: 'Next day' }).click();
  await expect(clock(page)).toHaveText('04:00:00', { timeout: 120_000 });

  // Many sessions: killed on the way it stands there, whole, and goes on.
  const runOn = async () => {
    await page.getByRole('button', { name: 'Go to…' }).click();
    await page.getByRole('textbox', { name: 'Date to run to' }).fill('2027-03-12');
    await page.getByRole('button', { name: 'To its 04:00' }).click();
  };
  await runOn();
  await expect(page.getByRole('status', { name: 'Work under way' })).toContainText('2027-03-11');
  page = await killed(context, page);
  await expect(page.getByText(/^2027-03-1[0-2]/)).toBeVisible();
  await runOn();
  await expect(sayBack(page)).toContainText('It is 2027-03-12, 04:00', { timeout: 120_000 });
  await expect(clock(page)).toHaveText('04:00:00');
  await view(page, 'Review');
  // The trade is the day’s before.
  await expect(page.getByTestId('trade-row')).toHaveCount(0);
  await page.getByRole('button', { name: 'Trades', exact: true }).click();
  await expect(page.getByTestId('kept-trade')).toHaveCount(1);
});

test('a choice made while everything is still loading is kept, beside all others', async ({ page }) => {
  await page.goto('/setup');
  await page.getByLabel('Dawn').check({ timeout: 30_000 });
  await view(page, 'Keys');
  await page.getByRole('button', { name: 'New script' }).click();
  await page.getByLabel('Name').fill('Mine');
  await expect(page.locator('html')).toHaveAttribute('data-choices', 'kept');
  const scripts = page.getByRole('region', { name: 'Scripts' }).getByRole('listitem');
  const all = await scripts.count();
  expect(all).toBeGreaterThan(1);
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dawn');
  await view(page, 'Keys');
  await expect(scripts).toHaveCount(all);
  await expect(page.getByRole('region', { name: 'Scripts' })).toContainText('Mine');
});

test('a choice is kept when the page is left before anything could write it', async ({ page }) => {
  // What is to be kept does not reach the worker: the page is left before.
  await page.addInitScript(() => {
    const send = Worker.prototype.postMessage;
    Worker.prototype.postMessage = function (this: Worker, m: { request?: { kind: string } }) {
      if (m.request?.kind !== 'keep settings' || sessionStorage.getItem('nothing is kept') === null)
        send.call(this, m, {});
    };
  });
  await page.goto('/setup');
  await page.evaluate(() => sessionStorage.setItem('nothing is kept', 'yes'));
  await page.getByLabel('Dawn').check({ timeout: 30_000 });
  await page.evaluate(() => sessionStorage.removeItem('nothing is kept'));
  await page.goto('/keys');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dawn');
  await expect(page.locator('html')).toHaveAttribute('data-choices', 'kept');
  // From then on it lies where all choices do, not with this page.
  await page.evaluate(() => sessionStorage.clear());
  await page.goto('/review');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dawn');
});
