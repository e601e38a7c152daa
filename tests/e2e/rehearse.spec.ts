import { expect, type Page, test } from '@playwright/test';
import { clock, position, sayBack, view } from './desk';

const results = (page: Page) => page.getByRole('region', { name: 'Results' });
const figure = (page: Page, name: string) =>
  results(page)
    .getByRole('table', { name: 'Figures' })
    .getByRole('row', { name: new RegExp(`^${name}`) });

test('two stops compared over days: stopped, the page loaded again, finished; one of the days opened and traded', async ({
  page,
}) => {
  await page.goto('/keys');
  await page.getByRole('button', { name: 'Buy half an R' }).first().click();
  // From the script to its rehearsal.
  await page
    .getByRole('region', { name: 'Script', exact: true })
    .getByRole('link', { name: 'Rehearse' })
    .click();
  const form = page.getByRole('region', { name: 'What is rehearsed' });
  await expect(form.getByRole('textbox', { name: 'Name of the rehearsal' })).toHaveValue('Buy half an R');
  await expect(form.getByRole('textbox', { name: 'A1 does' })).toContainText('buy risk 0.5R at usual');
  // When it is pressed, in words: each opens what may stand there.
  await form.getByRole('button', { name: 'A1: the condition in words' }).click();
  await page.getByRole('button', { name: 'premarket high: change it' }).click();
  await page.getByRole('group', { name: 'What may stand here' }).getByRole('textbox').fill('vwap');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(form.getByRole('textbox', { name: 'A1 is pressed when' })).toHaveValue(
    'last crosses above vwap',
  );
  // The same with one thing changed.
  await form.getByRole('checkbox', { name: /the same with one thing changed/ }).check();
  await form.getByRole('button', { name: 'Take A again' }).click();
  await form.getByRole('button', { name: 'Rehearse', exact: true }).click();
  await expect(form.getByRole('alert')).toContainText('A and B are the same');
  await form.getByRole('textbox', { name: 'B1 does' }).click();
  await form
    .locator('.cm-content[aria-label="B1 does"]')
    .fill('buy risk 0.5R at usual through\n  stop 4%\n  target 1R for half\n  target 2R for half');
  await form.getByRole('textbox', { name: 'Symbol' }).fill('vulpn');
  await form.getByRole('textbox', { name: 'out at market by' }).fill('09:00');
  await form.getByRole('textbox', { name: 'to', exact: true }).fill('10:00');
  await expect(form.getByRole('alert')).toContainText('out by: Later than the last way in');
  await form.getByRole('textbox', { name: 'out at market by' }).fill('10:10');
  await form.getByRole('textbox', { name: 'variations of each kind' }).fill('40');
  await form.getByRole('button', { name: 'Rehearse 120 days' }).click();
  // It shows what there is while it runs, and can be stopped.
  const stop = results(page).getByRole('button', { name: 'Stop', exact: true });
  await expect(figure(page, 'Trades')).toContainText(/[1-9]\d* on \d+ days/, { timeout: 60_000 });
  await stop.click();
  await expect(results(page)).toContainText(/Stopped after \d+ of 120 days/);
  await page.reload();
  await expect(results(page)).toContainText(/Stopped after \d+ of 120 days/, { timeout: 30_000 });
  await results(page).getByRole('button', { name: 'Go on' }).click();
  await expect(stop).toBeVisible();
  // One that was under way goes on by itself.
  await page.reload();
  await expect(stop).toBeVisible({ timeout: 30_000 });
  await expect(stop).toBeHidden({ timeout: 120_000 });
  await expect(figure(page, 'Trades')).toContainText('on 120 days');
  await expect(figure(page, '19 of 20 between')).toContainText('to');
  await expect(page.getByRole('status', { name: 'Which is better' })).toContainText(
    /B less A [+−]?\d\.\d\dR a day/,
  );
  await expect(results(page)).toContainText('A simulated market is not the real one');
  const seen = await results(page).getByRole('table', { name: 'Figures' }).innerText();
  const byHour = await results(page).getByRole('table', { name: 'By entered from' }).innerText();
  expect(byHour).toContain('09:30');
  // A day of it, from before the key.
  await results(page).getByRole('button', { name: 'Trades', exact: true }).click();
  const first = results(page).getByRole('list', { name: 'Trades' }).getByRole('listitem').first();
  const pressed = /\d\d:\d\d:\d\d/.exec(await first.innerText())?.[0] as string;
  await first.getByRole('button', { name: /^Practise VULPN/ }).click();
  await expect(page).toHaveURL(/desk/, { timeout: 60_000 });
  const before = new Date(`2000-01-01T${pressed}Z`);
  before.setSeconds(before.getSeconds() - 10);
  await expect(clock(page)).toHaveText(before.toISOString().slice(11, 19), { timeout: 120_000 });
  await page.keyboard.press('w');
  await expect(sayBack(page)).toContainText('Buy half an R:');
  await page.keyboard.press('Enter');
  await expect(sayBack(page)).toContainText('Done');
  await expect(position(page)).toContainText(/long|buying/);
  // The rehearsal is still there, and once more it comes to the same.
  await view(page, 'Rehearse');
  await results(page).getByRole('button', { name: 'Into the form' }).click();
  await page.getByRole('textbox', { name: 'variations of each kind' }).fill('4');
  await page.getByRole('button', { name: 'Rehearse 12 days' }).click();
  await expect(figure(page, 'Trades')).toContainText('on 12 days', { timeout: 60_000 });
  const twelve = await results(page).getByRole('table', { name: 'Figures' }).innerText();
  await page.getByRole('button', { name: 'Rehearse 12 days' }).click();
  await results(page).getByRole('combobox', { name: 'Rehearsal' }).click();
  await expect(page.getByRole('option')).toHaveCount(3);
  await page.keyboard.press('Escape');
  await expect(figure(page, 'Trades')).toContainText('on 12 days', { timeout: 60_000 });
  expect(await results(page).getByRole('table', { name: 'Figures' }).innerText()).toBe(twelve);
  expect(twelve).not.toBe(seen);
});
