// What the commands share: making a fresh machine ready, and running steps. Plain Node, no packages.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

delete process.env.NODE_ENV;
process.env.NEXT_TELEMETRY_DISABLED = '1';

/** Runs a command to its end with its output shown; a failure ends this process with its code. */
export function run(title, command, args, options = {}) {
  console.log(`\n== ${title}`);
  const started = Date.now();
  const { status } = spawnSync(command, args, { stdio: 'inherit', ...options });
  console.log(
    `== ${title}: ${status === 0 ? 'done' : 'FAILED'} in ${((Date.now() - started) / 1000).toFixed(1)} s`,
  );
  if (status !== 0) process.exit(status ?? 1);
}

/** Installs the packages of the lock file where they are missing or older than it. */
export function installPackages() {
  const mark = 'node_modules/.package-lock.json';
  if (existsSync(mark) && statSync(mark).mtimeMs >= statSync('package-lock.json').mtimeMs) return;
  run('install packages', 'npm', ['ci', '--no-audit', '--no-fund']);
}

/** Installs Debian's Chromium for the browser tests and pictures, and curl for the examples of docs/http.md. */
export function installForTests() {
  const missing = ['chromium', 'curl'].filter((name) => !existsSync(`/usr/bin/${name}`));
  if (missing.length === 0) return;
  run('look up packages', 'apt-get', ['update', '-qq']);
  run(`install ${missing.join(' and ')}`, 'apt-get', ['install', '-y', '-qq', ...missing], {
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
}

/** Builds the app unless the last build is newer than every source. */
export function build({ always = false } = {}) {
  const mark = '.next/inline-script-hashes.json';
  const sources = [
    'src',
    'package-lock.json',
    'next.config.mjs',
    'postcss.config.mjs',
    'scripts/csp-hashes.mjs',
  ];
  if (!always && existsSync(mark) && statSync(mark).mtimeMs > Math.max(...sources.map(newest))) return;
  run('build', 'node', ['node_modules/next/dist/bin/next', 'build']);
  run('hash the inline scripts', 'node', ['scripts/csp-hashes.mjs']);
}

function newest(path) {
  const s = statSync(path);
  return s.isDirectory()
    ? Math.max(s.mtimeMs, ...readdirSync(path).map((f) => newest(join(path, f))))
    : s.mtimeMs;
}

/** A connection stays open for a minute between two calls: Node's five seconds end it under a caller that reuses it. */
const KEEP_ALIVE = ['--keepAliveTimeout', '60000'];

/** Starts the built app on the loopback address, or on HOST; resolves when it answers, with the process and its address. */
export async function serve(port) {
  const host = process.env.HOST ?? '127.0.0.1';
  const child = spawn(
    'node',
    ['node_modules/next/dist/bin/next', 'start', '-H', host, '-p', String(port), ...KEEP_ALIVE],
    {
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  );
  let said = '';
  child.stdout.on('data', (d) => (said += d));
  child.stderr.on('data', (d) => (said += d));
  const ended = new Promise((_resolve, reject) => {
    child.on('exit', () =>
      reject(
        new Error(
          /EADDRINUSE/.test(said)
            ? `Port ${port} is in use. Choose another: PORT=4181 npm run demo`
            : `The server stopped:\n${said}`,
        ),
      ),
    );
  });
  const own = ['127.0.0.1', '0.0.0.0', '::'].includes(host);
  const address = `http://${own ? 'localhost' : host}:${port}`;
  const ready = (async () => {
    while (child.exitCode === null) {
      if (
        await fetch(`${address}/scan`).then(
          (r) => r.ok && /Ready/.test(said),
          () => false,
        )
      )
        return { child, address };
      await new Promise((r) => setTimeout(r, 100));
    }
    return ended;
  })();
  return Promise.race([ready, ended]);
}
