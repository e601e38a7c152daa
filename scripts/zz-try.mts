import { readFileSync } from 'node:fs';
const { parseScript, printScript, explain } = await import('/work/main/src/core/language/index.ts');
let reads=0, mended=0, refused=0;
for (const raw of readFileSync(process.argv[2]!, 'utf8').split('\n').filter(Boolean)) {
  const text = raw.replaceAll('⏎','\n');
  const p = parseScript(text);
  if (p.problems.length === 0) { reads++; const t = printScript(p).replaceAll('\n',' ⏎ '); if (t !== raw.replaceAll('⏎',' ⏎ ')) console.log('READS  ', raw, ' => ', t); else console.log('reads  ', raw); }
  else {
    const fixes = p.problems[0].fixes.map((f:any) => (text.slice(0,f.from)+f.text+text.slice(f.to)).replaceAll('\n',' ⏎ '));
    if (fixes.length) mended++; else refused++;
    console.log(fixes.length ? 'PRESS  ' : 'REFUSED', raw, ' | ', explain(p.problems[0]).slice(0,200), '\n          ', fixes.join('  ||  '));
  }
}
console.log({reads, mended, refused});
