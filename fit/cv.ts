import { readdirSync, readFileSync } from 'node:fs';
import { fitNetwork, scoreOf, type Lesson } from './beats/network';
import { stylesToFit, families } from './beats/styles';
const dir=process.argv[2]!; const [H,E,R,D]=(process.argv[3]??'12,40,0.003,0.01').split(',').map(Number); const nets=Number(process.argv[4]??1); const only=process.argv[5];
const styles=stylesToFit(); const fam=new Map(styles.map(s=>[s.name,s.family])); const fold=new Map(styles.map((s,i)=>[s.name,i%5]));
interface P{id:string;style:string;features:number[][];f:number[];best:number[];mt:[number,number];rows:Float64Array[]}
const ps:P[]=readdirSync(dir).map(n=>({id:n.slice(0,-5),style:n.slice(0,-5).replace(/-\d+$/,''),...JSON.parse(readFileSync(dir+'/'+n,'utf8'))})).filter(p=>p.features.length>0);
const d=ps[0].features[0].length;
const skip=new Set((process.env.SKIP??'').split(',').filter(Boolean).flatMap(r=>{const [a,b]=r.split('-').map(Number);return Array.from({length:(b??a)-a+1},(_,i)=>a+i)}));
// standardise
const mean=new Float64Array(d), sd=new Float64Array(d); let n=0;
for(const p of ps) for(const r of p.features){n++; r.forEach((x,i)=>mean[i]+=x)}
mean.forEach((_,i)=>mean[i]/=n); for(const p of ps) for(const r of p.features) r.forEach((x,i)=>sd[i]+=(x-mean[i])**2); sd.forEach((_,i)=>sd[i]=Math.sqrt(sd[i]/n)||1);
for(const p of ps){
  const z=p.features.map(r=>r.map((x,i)=>skip.has(i)?0:(x-mean[i])/sd[i]));
  const mu=z[0].map((_,i)=>z.reduce((s,r)=>s+r[i],0)/z.length), mx=z[0].map((_,i)=>Math.max(...z.map(r=>r[i])));
  p.rows=z.map(r=>Float64Array.from([...r,...r.map((x,i)=>x-mu[i]),...r.map((x,i)=>x-mx[i])]));
}
const res=new Map<string,number[]>(); const per:Record<string,number[][]>={}; const bad:string[]=[];
const folds=only?[Number(only)]:[0,1,2,3,4];
const perFold:string[]=[];
for(const k of folds){
  const train:Lesson[]=ps.filter(p=>fold.get(p.style)!==k).map(p=>({rows:p.rows,worth:p.f,weight:1}));
  const ns=Array.from({length:nets},(_,s)=>fitNetwork(train,{hidden:H,epochs:E,rate:R,decay:D,seed:'s'+s}));
  const test=ps.filter(p=>fold.get(p.style)===k); let fs=0;
  let tr=0; for(const p of ps) if(fold.get(p.style)!==k){const sc=p.rows.map(r=>ns.reduce((s,x)=>s+scoreOf(x,r),0)); tr+=p.f[sc.indexOf(Math.max(...sc))]}
  for(const p of test){const sc=p.rows.map(r=>ns.reduce((s,x)=>s+scoreOf(x,r),0)); const b=sc.indexOf(Math.max(...sc)); const row=[p.f[b],p.best[b],...p.mt,Math.max(...p.f)]; (per[fam.get(p.style)!]??=[]).push(row); (per.all??=[]).push(row); fs+=p.f[b]; if(p.f[b]<0.8) bad.push(`${p.id} ${p.f[b].toFixed(2)} ${p.best[b].toFixed(2)}`)}
  perFold.push((fs/test.length).toFixed(3)+' (train '+(tr/train.length).toFixed(3)+')');
}
console.log(perFold.join('  '));
for(const f of [...families,'all']) {const r=per[f]; if(r) console.log(f.padEnd(18),r.length, r[0].map((_,i)=>(r.reduce((s,x)=>s+x[i],0)/r.length).toFixed(3)).join(' '))}
if(process.env.BAD) console.log(bad.join('\n'));
