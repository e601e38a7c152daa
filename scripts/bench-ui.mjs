// npm run bench:ui: how the interface behaves in the busiest minutes of the demo day, in headless Chromium.
import { gzipSync } from 'node:zlib';
import { build, installForTests, installPackages, serve } from './machine.mjs';

installPackages();
installForTests();
build();
const { chromium } = await import('@playwright/test');
const { child, address } = await serve(Number(process.env.PORT ?? 4321));
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const at = (list, share) => [...list].sort((a, b) => a - b)[Math.floor((list.length - 1) * share)];
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const script = new Map();
  page.on('response', (r) => {
    if (/\.js(\?|$)/.test(r.url()))
      script.set(
        r.url(),
        r.body().then(
          (b) => gzipSync(b).length / 1024,
          () => 0,
        ),
      );
  });
  await page.goto(`${address}/desk`);
  await page.getByTestId('depth').waitFor();
  const interactive = await page.evaluate(() => performance.now());
  await page.locator('path[stroke="var(--up)"]').first().waitFor();

  const own = new Set(
    await page.evaluate(() =>
      performance
        .getEntriesByType('resource')
        .map((r) => r.name)
        .filter((n) => !n.includes('worker')),
    ),
  );
  let [onPage, inWorker] = [0, 0];
  for (const [url, size] of script)
    if (own.has(url)) onPage += await size;
    else inWorker += await size;
  console.log(
    `script on the Desk, compressed: page ${onPage.toFixed(0)} kB (budget 300), worker ${inWorker.toFixed(0)} kB more; market on screen after ${interactive.toFixed(0)} ms (first start, with the pre-market run)`,
  );

  await page.getByRole('button', { name: 'To the open' }).click();
  await page.getByTestId('clock').filter({ hasText: '09:30:00' }).waitFor();
  await page.evaluate(() => {
    window.long = [];
    new PerformanceObserver((l) => window.long.push(...l.getEntries().map((e) => e.duration))).observe({
      entryTypes: ['longtask'],
    });
  });
  for (const speed of [1, 60]) {
    await page.getByRole('button', { name: `Run at ${speed} times` }).click();
    await page.evaluate(() => {
      window.long.length = 0;
    });
    await page.waitForTimeout(speed === 1 ? 20_000 : 5_000);
    const long = await page.evaluate(() => window.long);
    console.log(
      `at ${speed}×: ${long.length} tasks over 50 ms${long.length ? `, longest ${Math.max(...long).toFixed(0)} ms` : ''}`,
    );
  }
  await page.getByRole('button', { name: 'Run at 1 times' }).click();

  const times = [];
  for (let i = 0; i < 60; i++) {
    await page.waitForTimeout(250);
    times.push(
      await page.evaluate(
        (code) =>
          new Promise((resolve) => {
            const strip = document.querySelector('[aria-label="Say-back"]');
            const t = performance.now();
            new MutationObserver((_list, o) => {
              if (!/Done|Send/.test(strip.textContent)) return;
              o.disconnect();
              requestAnimationFrame(() => setTimeout(() => resolve(performance.now() - t)));
            }).observe(strip, { childList: true, subtree: true, characterData: true });
            window.dispatchEvent(new KeyboardEvent('keydown', { code, key: 'x', bubbles: true }));
          }),
        i % 3 === 0 ? 'KeyQ' : i % 3 === 1 ? 'Enter' : 'KeyF',
      ),
    );
  }
  const sent = times.filter((_t, i) => i % 3 !== 0);
  console.log(
    `key to acknowledged, stored and painted, at 1× after the open: median ${at(sent, 0.5).toFixed(0)} ms, p95 ${at(sent, 0.95).toFixed(0)} ms over ${sent.length} orders (budget 50 ms)`,
  );
  // Scrolling the whole market while it trades: a scan that everybody passes.
  await page.goto(`${address}/scan`);
  await page.getByRole('textbox', { name: 'Rule of the scan' }).press('Control+a');
  await page.keyboard.insertText('price > 0');
  await page.getByRole('button', { name: 'More of this scan' }).click();
  await page.getByLabel('shows at most').fill('8000');
  await page.keyboard.press('Escape');
  await page.getByText('7,9').first().waitFor();
  await page.getByRole('button', { name: 'Run at 1 times' }).click();
  await page.waitForTimeout(1_500);
  const frames = await page.evaluate(
    () =>
      new Promise((resolve) => {
        const grid = document.querySelector('[role="grid"]');
        const gaps = [];
        let last = performance.now();
        const end = last + 6_000;
        const step = (now) => {
          gaps.push(now - last);
          last = now;
          grid.scrollTop = grid.scrollTop + 60;
          if (now < end) requestAnimationFrame(step);
          else
            resolve({
              gaps: gaps.slice(1),
              top: grid.scrollTop,
              rows: grid.querySelectorAll('[data-symbol]').length,
            });
        };
        requestAnimationFrame(step);
      }),
  );
  console.log(
    `scrolling the table of the whole market at 1×: ${(1000 / (frames.gaps.reduce((a, b) => a + b, 0) / frames.gaps.length)).toFixed(1)} frames a second, p95 ${at(frames.gaps, 0.95).toFixed(1)} ms, longest ${Math.max(...frames.gaps).toFixed(0)} ms, over ${Math.round(frames.top / 26)} rows (budget 60 a second)`,
  );
} finally {
  await browser.close();
  child.removeAllListeners('exit');
  child.kill('SIGTERM');
}
