import { get } from 'node:http';
import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';

const VIEWS = ['scan', 'desk', 'options', 'keys', 'plans', 'rehearse', 'review', 'setup', 'days'];

for (const theme of ['Night', 'Dawn']) {
  test(`every view in ${theme}: no accessibility violation, a strict policy, nothing asked from elsewhere`, async ({
    page,
  }) => {
    const foreign: string[] = [];
    page.on(
      'request',
      (r) => !/^(http:\/\/localhost:4310|blob:|data:)/.test(r.url()) && foreign.push(r.url()),
    );
    await page.goto('/setup');
    await page.getByLabel(theme).check();
    // What differs between themes is colour, and that is the same few on every view.
    for (const name of theme === 'Night' ? VIEWS : ['scan', 'desk', 'options', 'review']) {
      const response = await page.goto(`/${name}`);
      const policy = response?.headers()['content-security-policy'] ?? '';
      expect(policy).toContain("default-src 'none'");
      expect(policy).not.toMatch(/script-src[^;]*unsafe/);
      await expect(page.locator('html')).toHaveAttribute('data-theme', theme.toLowerCase());
      await expect(page.getByRole('main').getByRole('heading').first()).toBeAttached();
      await expect(page.getByText('being set up')).toHaveCount(0);
      if (name === 'desk') await expect(page.getByTestId('depth')).toBeVisible();
      const all = new AxeBuilder({ page });
      const { violations } = await (theme === 'Night' ? all : all.withRules(['color-contrast'])).analyze();
      expect(
        violations.map((v) => `${name}: ${v.id} ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`),
      ).toEqual([]);
    }
    expect(foreign).toEqual([]);
  });
}

test('the server answers to its own names only', async () => {
  const asked = (host: string) =>
    new Promise<[number | undefined, string]>((resolve, reject) => {
      const r = get({ host: '127.0.0.1', port: 4310, path: '/scan', headers: { host } }, (answer) => {
        let text = '';
        answer.on('data', (d) => (text += d));
        answer.on('end', () => resolve([answer.statusCode, text]));
      });
      r.on('error', reject);
    });
  for (const host of ['localhost:4310', '127.0.0.1:4310', '[::1]:4310', 'LOCALHOST'])
    expect([host, (await asked(host))[0]]).toEqual([host, 200]);
  for (const host of ['evil.example', 'localhost.evil.example:4310', '192.168.0.7'])
    expect(await asked(host)).toEqual([421, expect.stringContaining(`not to “${host}”`)]);
});
