import { parseScript, parseRule } from '../src/core/language/index.ts';
const t="buy risk 1R at ask + 3c extended\n  stop 30c\n  target 1R for half\n  target 2R";
const rule="gap > 8% and price between 2 and 20 and volume > 500k and float < 20M and relative volume > 3 and spread < 5c and borrow is easy and change > 3% and dollar volume > 1M and news age < 60";
for (const [n,f] of [['bracket',()=>parseScript(t)],['rule',()=>parseRule(rule)]] as const){
for(let k=0;k<3000;k++)f();
const ts:number[]=[];for(let k=0;k<4000;k++){const a=performance.now();f();ts.push(performance.now()-a);}ts.sort((a,b)=>a-b);
console.log(n,'median',(ts[2000]!*1000).toFixed(0),'p99',(ts[3960]!*1000).toFixed(0));}
