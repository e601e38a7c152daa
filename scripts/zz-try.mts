import { advance, apply, createEngine, restore, save } from '../src/session/engine.ts';
import { peek } from '../src/session/scripts.ts';
import { simMarket } from '../src/session/sim-market.ts';
import { at, formatPrice } from '../src/core/units/index.ts';
import { questionText } from '../src/core/reading/index.ts';
const DAY = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 24 }, own: null } as const;
const opened = createEngine(simMarket(DAY as never));
advance(opened, at(9, 10)); const early = structuredClone(save(opened));
advance(opened, at(9, 45)); const late = structuredClone(save(opened));
advance(opened, at(15, 40)); const noon = structuredClone(save(opened));
const begun = (from:any) => { const s=structuredClone(from); return restore(s, simMarket(DAY as never, s.market), [], null); };
const run=(e:any,text:string)=>{const asks=peek(e,text,'VULPN').lines.flatMap(l=>l.asks);return apply(e,{kind:'run',text,focus:'VULPN',yes:asks} as any).result;};
const M:Record<string,()=>any>={
 early:()=>begun(early), flat:()=>begun(late), noon:()=>begun(noon),
 long:()=>{const e=begun(late);const r=run(e,'buy 400 at 8c through\n  stop 40c\n  target 2R');if(r.problem)console.log(r.problem);return e;},
 short:()=>{const e=begun(late);const r=run(e,'short 100 at 8c through\n  stop 40c');if(r.problem)console.log(r.problem);return e;},
 call:()=>{const e=begun(late);const r=run(e,'buy 2 of 45 days at the money call at ask');if(r.problem)console.log(r.problem);return e;},
};
import { readFileSync } from 'node:fs';
for (const line of readFileSync('/tmp/mean.txt','utf8').split('\n').filter(Boolean)){
  const [m,...rest]=line.split(' | '); const e=M[m!]!(); const q=e.market.quote('VULPN');
  const P=(x:number)=>formatPrice(Math.round(q.bid*x/100)*100);
  const text=rest.join(' | ').replaceAll('\\n','\n').replace(/\{([\d.]+)\}/g,(_,x)=>P(Number(x)));
  const p=peek(e,text,'VULPN');
  console.log(`[${m} ${formatPrice(q.bid)}x${formatPrice(q.ask)}] ${text.replaceAll('\n',' ⏎ ')}`);
  if(p.problem) console.log('    NO:',p.problem.slice(0,200),'=>',p.fixes.map(f=>f.replaceAll('\n',' ⏎ ')).join('  //  '));
  else for(const l of p.lines){console.log('    ',l.sayBack.replaceAll('\n',' ⏎ '), l.about?`(${l.about})`:'', l.warnings.length?'⚠ '+l.warnings.join(' ⚠ '):'');for(const q of l.asks)console.log('     ASKS',questionText(q),'instead' in q?q.instead.join(' // '):'');}
}
