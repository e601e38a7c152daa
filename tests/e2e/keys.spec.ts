import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { clock, goTo, order, pick, position, sayBack, staged, ticket, view } from './desk';

/** Chooses at a word of the sentence that is built. */
async function choose(page: Page, word: string, choice: string) {
  await page
    .getByRole('group', { name: 'Script in words' })
    .getByRole('button', { name: `${word}: change it`, exact: true })
    .click();
  await page
    .getByRole('group', { name: 'What may stand here' })
    .getByText(choice, { exact: true })
    .first()
    .click();
}

test('half off at the ask and the stop to breakeven, built by choosing, on a side button of the mouse, pressed', async ({
  page,
}) => {
  await page.goto('/desk');
  await order(page, 'buy 200 at ask + 3c extended\n stop 30c');
  await expect(position(page)).toContainText('long 200 at');
  await view(page, 'Keys');
  await page.getByRole('button', { name: 'New script' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Half off');
  // Nothing is typed: the sentence that stands there goes, and what it should do is chosen.
  const sentence = page.getByRole('textbox', { name: 'Script', exact: true });
  await sentence.click();
  await sentence.press('ControlOrMeta+a');
  await sentence.press('Delete');
  await expect(sentence).not.toContainText('ask');
  await page.getByRole('button', { name: 'Add a sentence' }).click();
  await page.getByRole('button', { name: 'Exit Out of a part or of all' }).click();
  await page.getByRole('button', { name: /^close half at ask/ }).click();
  const text = page.getByRole('textbox', { name: 'Script', exact: true });
  await expect(text).toHaveText('close half at ask');
  // A value is typed; one that does not fit is said, and changes nothing.
  await page.getByRole('button', { name: 'half: change it' }).click();
  const typed = page.getByRole('group', { name: 'What may stand here' }).getByRole('textbox');
  await typed.fill('150%');
  await typed.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: '150%' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(text).toHaveText('close half at ask');
  await choose(page, 'half', 'quarter');
  await choose(page, 'quarter', 'half');
  await page.getByRole('button', { name: 'Add to this line' }).first().click();
  await page
    .getByRole('group', { name: 'What may stand here' })
    .getByText('extended', { exact: true })
    .click();
  await page.getByRole('button', { name: 'Add a sentence' }).click();
  await page.getByRole('button', { name: /^Move a stop or an order/ }).click();
  await page.getByRole('button', { name: /^move stop to breakeven/ }).click();
  await expect(text).toContainText('close half at ask extended');
  await expect(text).toContainText('move stop to breakeven');
  // What it would do now, or why not: at this price the stop would go at once.
  await expect(page.getByLabel('What it would do now')).toContainText('would go at once');
  // A side button of the mouse.
  const record = page.getByRole('button', { name: 'record a key' });
  await record.click();
  await page
    .getByRole('button', { name: 'press it now …' })
    .dispatchEvent('mousedown', { button: 3, bubbles: true, cancelable: true });
  await expect(page.getByRole('button', { name: 'side button, back', exact: true })).toBeVisible();
  await expect(
    page
      .getByRole('region', { name: 'What is bound to which key' })
      .getByRole('button', { name: /Half off/ }),
  ).toBeVisible();
  await view(page, 'Desk');
  await page
    .getByRole('region', { name: 'Chart' })
    .dispatchEvent('mousedown', { button: 3, bubbles: true, cancelable: true });
  await expect(sayBack(page)).toContainText(/close 100 of VULPN at [\d.]+ extended/);
  await expect(sayBack(page)).toContainText('would go at once');
  await expect(page.getByRole('slider', { name: 'close of 100 on the chart' })).toBeVisible();
  await page.reload();
  await page.keyboard.down('Shift');
  await page.keyboard.up('Shift');
  await view(page, 'Keys');
  await expect(page.getByRole('button', { name: /side button, back.*Half off/ }).first()).toBeVisible();
});

test('keys are seen, moved, taken into another set and switched off; a window without the keyboard says so', async ({
  page,
}) => {
  await page.goto('/keys');
  const picture = page.getByRole('region', { name: 'What is bound to which key' });
  await expect(picture.getByRole('button', { name: 'Q: Buy 1R' })).toBeVisible();
  // While Shift is held each key says what it would do.
  await page.keyboard.down('Shift');
  await expect(picture.getByRole('button', { name: 'Q: Buy 1R' })).toContainText(/buy \d+/);
  await page.keyboard.up('Shift');
  await expect(picture.getByRole('button', { name: 'Q: Buy 1R' })).not.toContainText(/buy \d+/);
  // Dragged to another key.
  const from = await picture.getByRole('button', { name: 'Q: Buy 1R' }).boundingBox();
  const to = await picture.getByText('R', { exact: true }).boundingBox();
  if (!from || !to) throw new Error('no keys');
  await page.mouse.move(from.x + 20, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(to.x + 15, to.y + 15, { steps: 6 });
  await page.mouse.up();
  await expect(picture.getByRole('button', { name: 'R: Buy 1R' })).toBeVisible();
  await page.getByRole('heading', { name: 'Keys of' }).click();
  await page.keyboard.press('r');
  await expect(sayBack(page)).toContainText(/Buy 1R:.*buy \d+ of VULPN/);
  await page.keyboard.press('Escape');
  // Another set, by its chord; then all off, by the one that is always live.
  await page.keyboard.press('Control+Shift+Backquote');
  const sets = page.getByRole('combobox', { name: 'Set of keys' });
  await expect(sets).toHaveText('Number pad');
  // A copy with a name of its own, and away with it.
  await page.getByRole('button', { name: 'Change this set of keys' }).click();
  await page.getByRole('button', { name: 'A copy of it' }).click();
  await page.getByLabel('Name of the set').fill('右手 🖐');
  await page.getByRole('button', { name: 'Delete this set' }).click();
  await page.getByRole('button', { name: /^Delete it, and free its \d+ keys/ }).click();
  await page.keyboard.press('Escape');
  await sets.click();
  await expect(page.getByRole('option')).toHaveText(['Left hand', 'Number pad']);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+Shift+Backquote');
  await expect(sets).toHaveText('Number pad');
  await page.getByRole('heading', { name: 'Keys of' }).click();
  await page.keyboard.press('Numpad7');
  await expect(sayBack(page)).toContainText(/Buy 1R:.*buy \d+ of VULPN/);
  await page.keyboard.press('Escape');
  await page.getByLabel('Find a script').click();
  await expect(page.getByRole('switch', { name: 'Keys' })).toHaveText('Typing …');
  await page.keyboard.press('Control+Backquote');
  await expect(page.getByRole('switch', { name: 'Keys' })).toHaveText('Keys off');
  await page.keyboard.press('Control+Backquote');
  await page.getByRole('heading', { name: 'Keys of' }).click();
  await expect(page.getByRole('switch', { name: 'Keys' })).toHaveText('Keys on');
  await page.evaluate(() => window.dispatchEvent(new Event('blur')));
  await expect(page.getByRole('alert').filter({ hasText: 'The keyboard is elsewhere' })).toBeVisible();
  await page.evaluate(() => window.dispatchEvent(new Event('focus')));
  await expect(page.getByRole('alert').filter({ hasText: 'The keyboard is elsewhere' })).toBeHidden();
  await page.keyboard.press('Numpad7');
  await expect(sayBack(page)).toContainText(/Buy 1R:.*buy \d+ of VULPN/);
});

test('a ready script is taken, the rack arranged by keyboard, scripts go out to a file and come back where names clash', async ({
  page,
}) => {
  await page.goto('/keys');
  await page.getByRole('button', { name: 'Library of ready scripts' }).click();
  await page.getByRole('button', { name: 'Trail', exact: true }).click();
  await page.getByRole('button', { name: 'Take a copy of Trail 20c' }).click();
  await expect(page.getByRole('textbox', { name: 'Script', exact: true })).toContainText('trail 20c');
  await view(page, 'Desk');
  await page.getByRole('button', { name: 'Change the rack' }).click();
  const rack = page.getByRole('region', { name: 'Rack, being arranged' });
  await pick(rack.getByLabel('Put a script on the rack'), 'Trail 20c');
  const grip = rack.getByRole('button', { name: 'Move Trail 20c' });
  await grip.focus();
  await page.keyboard.press('Space');
  await expect(grip).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText(/moved over droppable area flatten/)).toBeAttached();
  await page.keyboard.press('Space');
  await expect(page.getByText(/dropped/)).toBeAttached();
  await rack.getByRole('button', { name: 'Flatten: wide' }).click();
  await rack.getByRole('button', { name: 'Done' }).click();
  const buttons = page.getByRole('region', { name: 'Rack' }).getByRole('button');
  const order = async () =>
    (await buttons.allTextContents()).map((t) => t.match(/Trail 20c|Flatten/)?.[0]).filter(Boolean);
  expect(await order()).toEqual(['Trail 20c', 'Flatten']);
  await page.reload();
  await expect(buttons.filter({ hasText: 'Trail 20c' })).toBeVisible();
  expect(await order()).toEqual(['Trail 20c', 'Flatten']);
  await view(page, 'Keys');
  await page.getByRole('button', { name: 'Scripts to a file, and back' }).click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export all scripts' }).click(),
  ]);
  const text = readFileSync(await file.path(), 'utf8');
  const choose = async (name: string, body: string) => {
    await page.getByRole('button', { name: 'Scripts to a file, and back' }).click();
    await page
      .getByLabel('Choose a file of scripts')
      .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(body) });
  };
  await choose('other.json', '{"hotkeys": []}');
  await expect(page.getByRole('alert').filter({ hasText: 'not a file of scripts' })).toBeVisible();
  await page.keyboard.press('Escape');
  await choose('mine.json', text);
  const { length } = JSON.parse(text).scripts;
  await expect(page.getByText(`${length} names are there already`)).toBeVisible();
  await page.getByLabel('keep both').check();
  await page.getByRole('button', { name: 'Take them' }).click();
  await expect(page.getByLabel('Find a script')).toHaveAttribute(
    'placeholder',
    `find in ${2 * length} scripts`,
  );
});

test('a live pair by mouse alone: woken, bought at the price on it, sold to flat; asleep again after a reload', async ({
  page,
}) => {
  await page.goto('/desk');
  await page.getByRole('button', { name: 'Change the rack' }).click();
  await page.getByRole('button', { name: 'New live pair' }).click();
  await page.getByRole('button', { name: 'Done' }).click();
  const pair = page.getByTestId('live-pair');
  await pair.getByRole('button', { name: 'Wake the pair of VULPN: buy' }).click();
  // Nothing went: it only woke.
  await expect(position(page)).toContainText('flat in VULPN');
  const buy = pair.getByRole('button', { name: /^buy 100 of VULPN at/ });
  const said = await buy.getAttribute('aria-label');
  await buy.click();
  await expect(sayBack(page)).toContainText(said ?? 'no price');
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await expect(position(page)).toContainText('long 100 at');
  await pair.getByRole('button', { name: /^sell all of VULPN at/ }).click();
  await expect(position(page)).toContainText('flat in VULPN');
  await page.reload();
  await pair.getByRole('button', { name: 'Wake the pair of VULPN: sell' }).click();
  await expect(pair.getByRole('button', { name: /^short 100 of VULPN at/ })).toBeVisible();
  await expect(position(page)).toContainText('flat in VULPN');
});

test('three orders staged before the open, one of them to go by a condition, all sent at the open; each with its own exits', async ({
  page,
}) => {
  await page.goto('/desk');
  const list = page.getByRole('region', { name: 'Shortlist' });
  const focus = page.getByTestId('focus-symbol');
  for (const [k, symbol] of ['VULPN', 'BRYXT', 'ORBNT'].entries()) {
    await list.getByRole('button', { name: new RegExp(symbol) }).click();
    await expect(focus).toHaveText(symbol);
    await ticket(page, `stage buy ${100 + 10 * k} at ask + 20c\n  stop 4%\n  target 3R`);
    await expect(staged(page)).toContainText(`${k + 1} staged`);
  }
  await expect(staged(page)).toContainText(/BRYXT\s*buy 110 at [\d.]+/);
  // The first waits by itself for a price; what is missing is said in its place.
  await list.getByRole('button', { name: /VULPN/ }).click();
  await staged(page).getByRole('button', { name: 'Let VULPN wait for a condition' }).click();
  const wait = page.getByRole('dialog', { name: 'Let VULPN wait for a condition' });
  await wait.getByLabel('It is sent when').fill('time >=');
  await expect(wait.getByRole('button', { name: 'Let it wait' })).toBeDisabled();
  await wait.getByLabel('It is sent when').fill('time >= 09:30');
  await wait.getByRole('button', { name: 'Let it wait' }).click();
  if (await page.getByRole('button', { name: 'Send (Enter)' }).isVisible())
    await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await expect(staged(page)).toContainText(/VULPN\s*time 09:10:\d\d/);
  await goTo(page, '09:29');
  await page.reload();
  await expect(staged(page)).toContainText('3 staged');
  await goTo(page, '09:30');
  // It has gone by itself; the others go with one key.
  await expect(staged(page)).toContainText('2 staged');
  await page.getByRole('heading', { name: 'Depth' }).click();
  await page.keyboard.press('Alt+s');
  await page.keyboard.press('Enter');
  await expect(staged(page)).toBeHidden();
  await goTo(page, '09:30:20', '09:30:20');
  for (const [k, symbol] of ['VULPN', 'BRYXT', 'ORBNT'].entries()) {
    await list.getByRole('button', { name: new RegExp(symbol) }).click();
    await expect(focus).toHaveText(symbol);
    await expect(position(page)).toContainText(new RegExp(`long ${100 + 10 * k} at|flat in`));
  }
  await view(page, 'Review');
  for (const symbol of ['VULPN', 'BRYXT', 'ORBNT'])
    await expect(page.getByRole('main')).toContainText(symbol);
});

test('the left hand alone: in, half off, stop to breakeven, out, without a form', async ({ page }) => {
  await page.goto('/desk');
  await page.getByRole('button', { name: 'To the open' }).click();
  await expect(clock(page)).toHaveText('09:30:00', { timeout: 60_000 });
  await goTo(page, '09:31');
  await page.getByRole('heading', { name: 'Depth' }).click();
  // Hands are faster than answers: Escape and Enter right after a key are for that key, not for what waited before it.
  const hit = (...codes: string[]) =>
    page.evaluate((all) => {
      for (const code of all)
        window.dispatchEvent(new KeyboardEvent('keydown', { code, key: code, bubbles: true }));
    }, codes);
  await hit('KeyQ', 'Escape');
  await expect(sayBack(page)).toContainText('What a key or button does is said here');
  await hit('KeyE');
  await expect(sayBack(page)).toContainText(/Short 1R/);
  await hit('KeyW', 'Enter');
  // Where the rack still showed other numbers an early Enter does not count, and is asked for again.
  const early = sayBack(page).getByText('Enter came before this was there');
  await expect(
    position(page)
      .filter({ hasText: /long \d+ at/ })
      .or(early),
  ).toBeVisible();
  if (await early.isVisible()) await hit('Enter');
  await expect(position(page)).toContainText(/long \d+ at/);
  await hit('KeyF');
  await expect(position(page)).toContainText('flat in VULPN');
  // A second press of the same key is the yes.
  await page.keyboard.press('q');
  await expect(sayBack(page)).toContainText(/Buy 1R.*buy \d+ of VULPN/s);
  await page.keyboard.press('q');
  await expect(position(page)).toContainText(/long \d+ at/);
  const whole = Number(/long (\d+)/.exec(await position(page).innerText())?.[1]);
  await page.keyboard.press('a');
  await expect(sayBack(page)).toContainText(/close \d+ of VULPN at/);
  await page.keyboard.press('d');
  await expect(sayBack(page)).toContainText(/move stop|would go at once/);
  await page.keyboard.press('x');
  await expect(sayBack(page)).toContainText('cancel symbol');
  await page.keyboard.press('f');
  await expect(position(page)).toContainText('flat in VULPN');
  await view(page, 'Review');
  await expect(page.getByRole('main')).toContainText(`${whole}`);
});

test('never the keyboard: a ready script onto the rack, a size, in, a part off, out, by mouse alone', async ({
  page,
}) => {
  await page.goto('/keys');
  await page.getByRole('button', { name: 'Library of ready scripts' }).click();
  await page.getByRole('button', { name: 'Get in long', exact: true }).click();
  await page
    .getByRole('button', { name: /^Take a copy of/ })
    .first()
    .click();
  const name = await page.getByRole('textbox', { name: 'Name' }).inputValue();
  await page.getByRole('checkbox', { name: 'on the rack' }).check();
  await view(page, 'Desk');
  await page.getByRole('button', { name: 'Change the rack' }).click();
  await page.getByRole('button', { name: 'Row of sizes' }).click();
  await page.getByRole('button', { name: 'Done' }).click();
  const rack = page.getByRole('region', { name: 'Rack' });
  await expect(rack).toContainText('size');
  const size = rack.getByRole('button', { name: /^200/ });
  await expect(size).toHaveAttribute('aria-pressed', 'false');
  await size.click();
  await expect(size).toHaveAttribute('aria-pressed', 'true');
  await expect(
    rack.getByRole('button', { name: new RegExp(`^${name.replaceAll(/[+$.()]/g, '.')}`) }),
  ).toBeVisible();
  await rack.getByRole('button', { name: /Buy half an R/ }).click();
  await page.getByRole('button', { name: 'Send (Enter)' }).click();
  await expect(position(page)).toContainText(/long \d+ at/);
  await rack.getByRole('button', { name: /Flatten/ }).click();
  await expect(position(page)).toContainText(/flat in|sells/);
});
