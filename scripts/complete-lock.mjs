// npm run lock: after any change of packages. Where the registry lacks another platform's binary, npm
// leaves it out of the lock file and `npm ci` then refuses. This puts those entries back with the
// platform that their name tells, so that they are known and skipped.
import { readFileSync, writeFileSync } from 'node:fs';

const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'));
const systems = [
  'aix',
  'android',
  'darwin',
  'freebsd',
  'linux',
  'netbsd',
  'openbsd',
  'openharmony',
  'sunos',
  'win32',
];
const processors = [
  'arm64',
  'arm',
  'ia32',
  'loong64',
  'mips64el',
  'ppc64',
  'riscv64',
  's390x',
  'wasm32',
  'x64',
];
let added = 0;

/** Where Node would find `name` from a package: the nearest node_modules upward. */
function found(from, name) {
  for (let at = from; ; at = at.slice(0, Math.max(0, at.lastIndexOf('/node_modules/')))) {
    if (lock.packages[`${at ? `${at}/` : ''}node_modules/${name}`]) return true;
    if (!at.includes('node_modules')) return false;
    if (!at.includes('/node_modules/')) return Boolean(lock.packages[`node_modules/${name}`]);
  }
}

for (const [path, entry] of Object.entries(lock.packages)) {
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    if (found(path, name)) continue;
    const words = name.split(/[-/]/);
    const os = systems.filter((s) => words.includes(s));
    const cpu = processors.filter(
      (p) =>
        words.includes(p) ||
        (p === 'arm' && words.some((w) => /^arm/.test(w) && w !== 'arm64')) ||
        (p === 'ppc64' && words.includes('ppc64le')),
    );
    if (os.length + cpu.length === 0) {
      console.warn(`left out: ${name} of ${path} names no platform`);
      continue;
    }
    const libc = words.includes('musl') || words.includes('linuxmusl') ? ['musl'] : undefined;
    lock.packages[`node_modules/${name}`] = {
      version,
      ...(cpu.length && { cpu }),
      optional: true,
      ...(os.length && { os }),
      ...(libc && { libc }),
    };
    added++;
  }
}
lock.packages = Object.fromEntries(
  Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)),
);
writeFileSync('package-lock.json', `${JSON.stringify(lock, null, 2)}\n`);
console.log(`${added} entries of other platforms put back`);
