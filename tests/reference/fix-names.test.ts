// Source: the FIX 4.4 and FIX 5.0 SP2 data dictionaries shipped by the package jspurefix.
import { readFileSync } from 'node:fs';
import { EXEC_TYPES, ORD_STATUSES, ORDER_TYPES } from '@/core/orders';

function values(file: string, field: string): Set<string> {
  const xml = readFileSync(`node_modules/jspurefix/data/${file}`, 'utf8');
  const block =
    new RegExp(`<field number='\\d+' name='${field}'[^>]*>([\\s\\S]*?)</field>`).exec(xml)?.[1] ?? '';
  return new Set(
    [...block.matchAll(/description='([A-Z_]+)'/g)].map((m) =>
      (m[1] as string).toLowerCase().replace(/(^|_)(\w)/g, (_all, _line, c: string) => c.toUpperCase()),
    ),
  );
}

test.each([
  ['FIX44.xml', 'OrdStatus', ORD_STATUSES],
  ['FIX44.xml', 'OrdType', ORDER_TYPES],
  ['FIX50SP2.xml', 'ExecType', EXEC_TYPES],
] as const)('in %s, %s knows every name that we use', (file, field, ours) => {
  const theirs = values(file, field);
  expect(theirs.size).toBeGreaterThan(10);
  expect(ours.filter((name) => !theirs.has(name))).toEqual([]);
});
