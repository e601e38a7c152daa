import { createEngine, advance, apply } from '../src/session/engine.ts';
import { simMarket } from '../src/session/sim-market.ts';
import { at } from '../src/core/units/index.ts';
const DAY:any={ ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 60 }, own: null };
for(const n of [0,1]){const e=createEngine(simMarket(DAY)); advance(e,at(9,45)); apply(e,{kind:'run',text:'alert at 20',focus:'VULPN'});
if(n) for(const t of ['buy 2 of 45 days 30 delta put at ask','buy 2 of 45 days at the money call at ask','buy 2 of VULPN 2027-03-19 6 call at ask\n stop 40%\n target 50%','buy 1 of 10 days 30 delta put at ask','short 1 vertical of 10 days 30 delta 1 wide put at bid credit']) {const r=apply(e,{kind:'run',text:t,focus:'VULPN'}); if(r.result.problem)console.log(r.result.problem)}
const t=performance.now(); advance(e,at(9,55)); console.log(n,performance.now()-t, e.market.tape('VULPN').prints)}
