import { expect, test } from '@playwright/test';

test('a short by key that goes wrong: the stop buys it back by itself, slippage and all, and Review says what it cost', async ({
  page,
}) => {
  await page.goto('/desk');
  const position = page.getByTestId('position');
  const ruler = page.getByRole('group', { name: 'R ruler' });
  await expect(position).toHaveText('flat in VULPN');
  await page.getByRole('heading', { name: 'Depth' }).click();
  await page.keyboard.press('e');
  await expect(page.getByLabel('Say-back')).toContainText(/short \d+ of VULPN at [\d.]+ extended/);
  await page.keyboard.press('Enter');
  await expect(position).toContainText(/short \d+ at/);

  // A short's ruler runs the other way: the stop, above the entry in price, still stands at its left end.
  const left = async (name: RegExp) => (await ruler.getByRole('slider', { name }).boundingBox())?.x ?? 0;
  expect(await left(/^stop/)).toBeLessThan(await left(/^target 1/));
  const price = async (name: RegExp) =>
    Number(await ruler.getByRole('slider', { name }).getAttribute('aria-valuenow'));
  expect(await price(/^stop/)).toBeGreaterThan(await price(/^target 1/));

  // The gap goes on after the open, against the short.
  await page.getByRole('button', { name: 'To the open' }).click();
  await expect(page.getByTestId('clock')).toHaveText('09:30:00');
  await page.getByRole('button', { name: 'Run at 60 times' }).click();
  await expect(position).toHaveText('flat in VULPN', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Pause' }).click();

  await page
    .getByRole('navigation', { name: 'Views' })
    .getByRole('link', { name: 'Review', exact: true })
    .click();
  const row = page.getByTestId('trade-row');
  await expect(row).toContainText('short VULPN');
  await expect(row).toContainText(/−1\.\d\dR/);
  const story = page.getByRole('region', { name: 'One trade' });
  await expect(story).toContainText(/Stop triggered: VULPN traded at/);
  await expect(story).toContainText(/Target 1 of \d+ VULPN canceled: its stop was triggered/);
  await expect(story.getByText('removed').last()).toBeVisible();
});
