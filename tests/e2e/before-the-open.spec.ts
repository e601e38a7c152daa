import { expect, type Page, test } from '@playwright/test';
import { pick } from './desk';

const grid = (page: Page) => page.getByRole('grid');
const row = (page: Page, symbol: string) => grid(page).locator(`[data-symbol="${symbol}"]`);
const sheet = (page: Page) => page.getByRole('complementary', { name: 'Candidate' });
const sayBack = (page: Page) => page.getByLabel('Say-back');
const rail = (page: Page, name: RegExp | string) =>
  page.getByRole('navigation', { name: 'Scans and lists' }).getByRole('button', { name });

async function goTo(page: Page, time: string, how: RegExp) {
  await page.getByRole('button', { name: 'Go to…' }).click();
  await page.getByRole('textbox', { name: 'Go to' }).fill(time);
  await page.getByRole('button', { name: how }).click();
  await expect(page.getByTestId('clock')).toHaveText(`${time}:00`, { timeout: 60_000 });
}

/** Chooses a symbol by its row and waits until its sheet is there. */
async function choose(page: Page, symbol: string) {
  await row(page, symbol).click();
  await expect(sheet(page).getByRole('heading', { name: symbol })).toBeVisible();
}

/** Replaces the rule in the editor; its selection is the editor's own, so it holds while mistakes are underlined. */
async function write(page: Page, text: string) {
  await page.getByRole('textbox', { name: 'Rule of the scan' }).press('Control+a');
  await page.keyboard.insertText(text);
}

test('from 07:00 to a shortlist of three graded candidates with levels, an alert that fired, and one staged order', async ({
  page,
}) => {
  const troubles: string[] = [];
  page.on('pageerror', (e) => troubles.push(e.message));
  await page.goto('/scan');
  await expect(grid(page).locator('[data-symbol]').nth(5)).toBeVisible();
  await goTo(page, '07:00', /Go back/);

  // The market's context, and a scan that comes with the app; at 07:00 nobody has heard of VULPN.
  await expect(page.getByRole('region', { name: 'Market context' })).toContainText(/breadth\s*\d+ ▲/);
  await rail(page, 'Moving on news').click();
  await expect(row(page, 'VULPN')).toHaveCount(0);
  await expect(grid(page).locator('[data-symbol]').first()).toBeVisible();

  // Alerts by the editor's own sentence, by the table's key, and on newcomers of this scan.
  await page.getByRole('button', { name: 'More of this scan' }).click();
  await page.getByRole('button', { name: 'Tell me of newcomers' }).click();
  await expect(sayBack(page)).toContainText('Done');
  await page.keyboard.press('Escape');
  await goTo(page, '08:45', /Run to there/);
  // The newest of them stand at the foot of the screen; the list has every one.
  await expect(page.getByText(/[A-Z]+ passes: news age/).first()).toBeVisible();
  await page.getByRole('button', { name: /^Alerts/ }).click();
  const alerts = page.getByRole('complementary', { name: 'Alerts' });
  await expect(alerts).toContainText(/VULPN\s*passes: news age/);
  await alerts.getByRole('button', { name: /^Remove/ }).click();
  await expect(alerts).toContainText('None. N in the table');
  await page.keyboard.press('Escape');

  // Three candidates, graded; each sheet tells why it is here and its levels with their distance.
  await rail(page, 'Gapping up').click();
  for (const [symbol, grade] of [
    ['ORBNT', 'B'],
    ['VULPN', 'A'],
    ['BRYXT', 'C'],
  ] as const) {
    await choose(page, symbol);
    await sheet(page).getByRole('button', { name: grade, exact: true }).click();
    await expect(sheet(page)).toContainText('it passes all 3 clauses');
    const high = sheet(page).getByRole('row', { name: /^premarket high/ });
    await expect(high).toContainText(/\+\d+\.\d%\+\d+\.\d\d/);
  }
  await sheet(page).getByLabel('Note on BRYXT').fill('only above the high, small');
  await rail(page, /Shortlist of today/).click();
  const list = page.getByRole('region', { name: 'Shortlist of today' });
  await expect(list.locator('[data-symbol]')).toHaveCount(3);
  await expect(list.getByLabel('Grade of VULPN')).toHaveText('A');
  await expect(list.getByLabel('Note on BRYXT')).toHaveValue('only above the high, small');

  // The one graded A: an alert at its level, its draft on a key, and staged with that key; nothing is sent before the second.
  await list.getByText('VULPN', { exact: true }).click();
  await expect(sheet(page).getByRole('heading', { name: 'VULPN' })).toBeVisible();
  await sheet(page).getByRole('button', { name: 'Alert at premarket 15m low' }).click();
  await expect(sayBack(page)).toContainText(/Done\s*Practice margin\s*alert of VULPN at [\d.]+/);
  const draft = sheet(page).getByRole('region', { name: 'Draft of the trade' });
  await expect(draft.getByLabel('Draft of a long trade in VULPN')).toContainText(
    /buy risk 1R of VULPN above premarket 15m high \+ 1c limit/,
  );
  await expect(draft).toContainText(/risk \$(5\d|60)\.\d\d, 1 unit/);
  const words = draft.getByLabel('Draft of a long trade in VULPN');
  await words.getByText('2R', { exact: true }).dblclick();
  await page.keyboard.type('2.5R');
  await draft.getByRole('button', { name: 'Put it on a key' }).click();
  await expect(draft).toContainText('On key 1');
  await draft.getByRole('button', { name: 'Stage it' }).click();
  // What is staged waits in the engine, with its numbers as they are now, until a second press.
  await expect(sayBack(page)).toContainText(
    /Done\s*Practice margin\s*stage buy \d+ of VULPN above [\d.]+ limit [\d.]+ extended, stop at/,
  );
  const staged = page.getByRole('region', { name: 'Staged orders' });
  await expect(staged).toContainText(/VULPN\s*buy \d+ at [\d.]+/);
  await staged.getByRole('button', { name: /^Drop VULPN/ }).click();
  await expect(staged).toBeHidden();
  await page.getByRole('heading', { name: 'Shortlist of today' }).click();
  await page.keyboard.press('1');
  await expect(sayBack(page)).toContainText('VULPN long:');
  await page.keyboard.press('Enter');
  await expect(sayBack(page)).toContainText(/Done\s*Practice margin\s*buy \d+ of VULPN above/);

  // All of it is there after a reload, and on the Desk.
  await page.reload();
  await expect(list.getByLabel('Grade of VULPN')).toHaveText('A');
  await expect(words).toContainText(/target 2\.5R for half/);
  await page
    .getByRole('navigation', { name: 'Views' })
    .getByRole('link', { name: 'Desk', exact: true })
    .click();
  await expect(page.getByRole('region', { name: 'Shortlist' }).getByRole('button')).toHaveText([
    /ORBNT B/,
    /VULPN A/,
    /BRYXT C/,
  ]);
  await expect(page.getByRole('slider', { name: /on the chart/ }).first()).toBeVisible();
  await expect(page.getByText(/^alert \d/)).toBeVisible();
  expect(troubles).toEqual([]);
});

test('a rule as text and as clauses; what passes, what keeps out; the table sorted, held, hidden, its columns kept; rank lines', async ({
  page,
}) => {
  await page.goto('/scan');
  const rows = grid(page).locator('[data-symbol]');
  await expect(rows.nth(5)).toBeVisible();
  const rule = page.getByRole('textbox', { name: 'Rule of the scan' });

  // Completion with the value of the focus beside it; mistakes with the nearest word, the unit, the tightest clause.
  await row(page, 'VULPN').click();
  await write(page, 'gap > 8% and relat');
  await page.keyboard.press('Control+Space');
  const offered = page.locator('.cm-tooltip-autocomplete li').first();
  await expect(offered).toContainText(/relative volumeVULPN \d+/);
  await offered.click();
  await expect(rule).toContainText('relative volume > 3');
  await write(page, 'gap > 8% and flaot < 20M');
  await expect(page.getByTestId('rule-problem')).toContainText('Did you mean “float”?');
  await expect(page.locator('.cm-lintRange-error')).toHaveText('flaot');
  await write(page, 'gap > $5');
  await expect(page.getByTestId('rule-problem')).toContainText('measured in percent, not in dollars');
  await write(page, 'gap > 8% and price between 2 and 20 and premarket volume > 900M');
  await expect(page.getByRole('region', { name: 'Scan rule' })).toContainText(
    'The tightest clause is “premarket volume > 900M”',
  );
  await expect(grid(page)).toContainText('No symbol passes now');

  // The same rule as clauses: one number changed, the list follows.
  await page.getByRole('button', { name: 'Clauses' }).click();
  const clauses = page.getByRole('list', { name: 'Clauses' });
  await clauses.getByRole('textbox', { name: 'Value', exact: true }).nth(1).fill('100k');
  await expect(rows.nth(5)).toBeVisible();
  const all = await rows.count();
  await clauses.getByRole('textbox', { name: 'Value', exact: true }).first().fill('20%');
  await expect.poll(() => rows.count()).toBeLessThan(all);
  await clauses.getByRole('textbox', { name: 'Value', exact: true }).first().fill('8 dollars');
  await expect(clauses).toContainText('⚠');
  // Typed letter by letter, a decimal point on the way is not taken away.
  await clauses.getByRole('textbox', { name: 'Value', exact: true }).first().fill('');
  await clauses.getByRole('textbox', { name: 'Value', exact: true }).first().pressSequentially('8.25%');
  await expect(clauses.getByRole('textbox', { name: 'Value', exact: true }).first()).toHaveValue('8.25%');
  await clauses.getByRole('textbox', { name: 'Value', exact: true }).first().fill('8%');
  await pick(clauses.getByRole('combobox', { name: 'Add a clause' }), 'borrow');
  await pick(clauses.getByRole('combobox', { name: 'Is or is not' }), 'is not');
  await pick(clauses.getByRole('combobox', { name: 'Value' }), 'none');
  await page.getByRole('button', { name: 'Text' }).click();
  await expect(rule).toHaveText(
    'gap > 8% and price between 2 and 20 and premarket volume > 100k and borrow is not none',
  );

  // Sorted by a column; the order is held under the pointer; H hides, and what is hidden says so.
  const head = (name: string) => grid(page).getByRole('columnheader', { name });
  await head('Price').getByRole('button', { name: 'Price', exact: true }).click();
  await expect(head('Price')).toHaveAttribute('aria-sort', 'descending');
  await expect
    .poll(async () => {
      const prices = (await rows.locator('[role=gridcell]:nth-child(3)').allInnerTexts()).map(Number);
      return prices.length > 3 && prices.every((p, i) => i === 0 || p <= (prices[i - 1] as number));
    })
    .toBe(true);
  await rows.nth(1).hover();
  await expect(page.getByText('Order held while the pointer is here')).toBeVisible();
  await page.mouse.move(640, 30);
  const second = (await rows.nth(1).getAttribute('data-symbol')) as string;
  await row(page, second).click();
  await page.keyboard.press('h');
  await expect(row(page, second)).toHaveCount(0);

  // A column is put in and dragged to the front; both are there after a reload.
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('group', { name: 'Columns' }).getByLabel('iv rank').check();
  await page.keyboard.press('Escape');
  const grip = grid(page).getByRole('button', { name: 'Move the column Gap' });
  const from = await grip.boundingBox();
  const to = await head('Price').boundingBox();
  if (!from || !to) throw new Error('the heads are out of sight');
  await page.mouse.move(from.x + 4, from.y + 6);
  await page.mouse.down();
  await page.mouse.move(from.x - 20, from.y + 6, { steps: 4 });
  await page.mouse.move(to.x + 10, to.y + 6, { steps: 6 });
  await page.mouse.up();
  await expect(grid(page).getByRole('columnheader').nth(2)).toContainText('Gap');
  const edge = grid(page).getByRole('separator', { name: 'Width of the column Gap' });
  await edge.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  const narrow = Number(await edge.getAttribute('aria-valuenow'));
  const line = await edge.boundingBox();
  if (!line) throw new Error('the edge of the column is out of sight');
  await page.mouse.move(line.x + 4, line.y + 8);
  await page.mouse.down();
  await page.mouse.move(line.x + 34, line.y + 8, { steps: 4 });
  await page.mouse.up();
  await expect(edge).toHaveAttribute('aria-valuenow', String(narrow + 30));
  const wide = await edge.getAttribute('aria-valuenow');
  await page.reload();
  await expect(edge).toHaveAttribute('aria-valuenow', wide ?? '');
  await expect(grid(page).getByRole('columnheader').nth(2)).toContainText('Gap');
  await expect(head('IV rank')).toBeAttached();
  await expect(row(page, second)).toHaveCount(0);
  await expect(page.getByText('1 hidden today')).toBeVisible();
  await page.getByRole('button', { name: 'show', exact: true }).click();
  await expect(row(page, second)).toHaveCount(1);

  // What keeps a symbol out; a scan outside its hours says so.
  await page
    .getByRole('navigation', { name: 'Scans and lists' })
    .getByRole('button', { name: 'Options: movers' })
    .click();
  await expect(sheet(page)).toContainText(/Kept out by|it passes all/);
  await page.getByRole('button', { name: 'More of this scan' }).click();
  await page.getByLabel('Works from').fill('09:30');
  await page.keyboard.press('Escape');
  await expect(page.getByText('This scan works from 09:30 to 20:00.')).toBeVisible();
  await page.getByRole('button', { name: 'Let it work the whole day' }).click();
  await expect(page.getByText('This scan works from')).toHaveCount(0);
  await rail(page, /^Gapping up/).click();

  // Rank lines: drawn from the day run again, a name focuses.
  await page.getByRole('button', { name: 'Rank lines' }).click();
  const leaders = page.getByRole('list', { name: 'Leaders now' }).getByRole('listitem');
  await expect(leaders.nth(4)).toBeVisible({ timeout: 30_000 });
  expect(await page.getByTestId('rank-lines').locator('path.recharts-line-curve').count()).toBeGreaterThan(4);
  const name = await leaders.nth(2).getByRole('button').first().innerText();
  await leaders.nth(2).getByRole('button').first().click();
  await expect(page.getByTestId('focus-symbol')).toHaveText(name);
});

test('watchlists: pasted, reordered, out to a file and back; an unknown symbol is named and kept', async ({
  page,
}) => {
  await page.goto('/scan');
  await page.getByRole('button', { name: 'Make a watchlist' }).click();
  await page.getByLabel('Name of the list').fill('Energy names');
  await page.getByLabel('Type or paste symbols').fill('TARNH zephn\tNOSUC, 12');
  await page.keyboard.press('Enter');
  await expect(page.getByText('3 added. Not traded today, kept as unknown: NOSUC.')).toBeVisible();
  const list = page.getByRole('region', { name: 'Energy names' });
  await expect(list.locator('[data-symbol]')).toHaveText([/TARNH/, /ZEPHN/, /NOSUC\s*not traded today/]);
  await expect(list.locator('[data-symbol="ZEPHN"]')).toContainText(/\d+\.\d\d/);
  await list.locator('[data-symbol="TARNH"]').click();
  await page.keyboard.press('Alt+ArrowDown');
  await expect(list.locator('[data-symbol]')).toHaveText([/ZEPHN/, /TARNH/, /NOSUC/]);
  await list.getByLabel('Note on ZEPHN').fill('=wind, "offshore"');
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export CSV' }).click();
  const path = await (await saved).path();
  await page.getByRole('button', { name: 'Delete this list' }).click();
  await page.getByRole('button', { name: 'Delete “Energy names” for good?' }).click();
  await page.getByRole('button', { name: 'Make a watchlist' }).click();
  await page.getByLabel('A CSV with symbols').setInputFiles(path);
  const back = page.getByRole('region', { name: 'Watchlist 1' });
  await expect(back.locator('[data-symbol]')).toHaveText([/ZEPHN/, /TARNH/, /NOSUC/]);
  await expect(back.getByLabel('Note on ZEPHN')).toHaveValue('=wind, "offshore"');

  // The shortlist belongs to its day: on a day of another date it is an earlier one, still to be read.
  await rail(page, 'Gapping up').click();
  await row(page, 'ORBNT').click();
  await page.keyboard.press('l');
  await expect(rail(page, /Shortlist of today/)).toContainText('1');
  await page.goto('/days');
  await page.getByRole('button', { name: 'Practise: Low float, volatility pauses' }).click();
  await expect(page.getByTestId('clock')).toHaveText('09:20:00', { timeout: 60_000 });
  await page
    .getByRole('navigation', { name: 'Views' })
    .getByRole('link', { name: 'Scan', exact: true })
    .click();
  await expect(rail(page, /Shortlist of today/)).toContainText('0');
  await rail(page, 'Shortlist of 2027-03-09').click();
  await expect(
    page.getByRole('region', { name: 'Shortlist of 2027-03-09' }).locator('[data-symbol]'),
  ).toHaveText([/ORBNT/]);
});

test('alerts from the chart, a level and a sentence: seen, heard by kind, notified, on the ribbon; muted, snoozed, armed again', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['notifications']);
  // What would be heard and shown outside the page is written down instead.
  await page.addInitScript(() => {
    const told = { tones: [] as number[], notes: [] as string[] };
    Object.assign(window, { told });
    const make = AudioContext.prototype.createOscillator;
    AudioContext.prototype.createOscillator = function (this: AudioContext) {
      const tone = make.call(this);
      const start = tone.start.bind(tone);
      tone.start = (when?: number) => {
        told.tones.push(tone.frequency.value);
        start(when);
      };
      return tone;
    };
    class Note {
      static permission = 'granted';
      static requestPermission = async () => 'granted';
      constructor(title: string) {
        told.notes.push(title);
      }
    }
    Object.assign(window, { Notification: Note });
  });
  const told = () =>
    page.evaluate(() => (window as unknown as { told: { tones: number[]; notes: string[] } }).told);
  await page.goto('/desk');
  const chart = page.getByRole('region', { name: 'Chart of VULPN' });
  await expect(chart.locator('path[stroke="var(--up)"]').first()).toBeVisible();

  // From the chart: the key asks for the price under the pointer, and says so where there is none.
  await page.keyboard.press('c');
  await expect(sayBack(page)).toContainText('Point at a price on the chart of VULPN first');
  const box = await chart.boundingBox();
  if (!box) throw new Error('the chart is out of sight');
  await page.mouse.move(box.x + 300, box.y + box.height - 60);
  await page.keyboard.press('c');
  await expect(sayBack(page)).toContainText(/Done\s*Practice margin\s*alert of VULPN at [\d.]+/);
  await expect(chart.getByText(/^alert \d/)).toBeVisible();
  await page.mouse.move(640, 30);

  await page.getByRole('button', { name: /^Alerts/ }).click();
  const panel = page.getByRole('complementary', { name: 'Alerts' });
  await panel.getByLabel('browser notifications').check();
  await panel.getByRole('button', { name: 'New alert on VULPN' }).click();
  const form = page.getByRole('dialog', { name: 'Tell me when VULPN' });
  await form.getByLabel('reaches a price').check();
  await form.getByLabel('Price', { exact: true }).fill('5.x');
  await expect(form.getByRole('button', { name: 'Set the alert' })).toBeDisabled();
  await form.getByLabel('is halted or trades again').check();
  await form.getByRole('button', { name: 'Set the alert' }).click();
  await panel.getByRole('button', { name: 'New alert on VULPN' }).click();
  await form.getByLabel('reaches a level').check();
  await pick(form.getByLabel('Level', { exact: true }), 'premarket high');
  await expect(form).toContainText('alert of VULPN at premarket high');
  await form.getByRole('button', { name: 'Set the alert' }).click();
  await expect(panel.getByRole('listitem')).toHaveCount(3);

  // It fires once: a toast, its own two notes, a notification, a mark on the ribbon; the next event stops there.
  await page.getByRole('button', { name: 'To the open' }).click();
  await expect(page.getByTestId('clock')).toHaveText('09:30:00', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Run at 60 times' }).click();
  const fired = panel.getByRole('list').last().getByRole('listitem');
  const rose = /rose to [\d.]+/;
  await expect(fired.filter({ hasText: rose })).toHaveCount(1, { timeout: 60_000 });
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.locator('[data-sonner-toast]').filter({ hasText: rose })).toBeVisible();
  expect((await told()).tones).toEqual(expect.arrayContaining([660, 880]));
  expect((await told()).notes).toContain('VULPN: alert');
  await expect(page.locator('[title*="alert: VULPN rose"]')).toBeVisible();

  // While muted one fires unheard; snoozed it is quiet until it is woken; armed again it stands among the set ones.
  await panel.getByLabel('mute').check();
  await chart.getByRole('heading').click();
  await page.keyboard.press('v');
  await expect(sayBack(page)).toContainText(/Done\s*Practice margin\s*alert of VULPN at [\d.]+/);
  const tones = (await told()).tones.length;
  await page.getByRole('button', { name: 'Next event' }).click();
  await expect.poll(() => fired.count(), { timeout: 60_000 }).toBeGreaterThan(1);
  await expect(page.getByRole('button', { name: 'Run', exact: true })).toBeVisible();
  expect((await told()).tones).toHaveLength(tones);
  const struck = panel.getByRole('button', { name: 'again' });
  const before = await struck.count();
  await struck.first().click();
  await expect(struck).toHaveCount(before - 1);
  await panel.getByRole('button', { name: 'snooze' }).first().click();
  await expect(panel).toContainText(/quiet until \d\d:\d\d/);
  await panel.getByRole('button', { name: 'wake' }).first().click();
  await expect(panel).not.toContainText('quiet until');
});
