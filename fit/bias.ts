import { readdirSync, readFileSync } from 'node:fs';
import { EnvelopeMaker } from '@hastig/core'; import { findOnsets } from '../core/src/beats/onsets';
import { songs, sound, kick, click, hat } from '@hastig/core/test/songs';
import { pieces } from '@hastig/demo';
import { readSound } from './beats/sound-file';
const show=(name:string,samples:Float32Array,rate:number,truth:readonly number[])=>{
  const m=new EnvelopeMaker(rate); m.push(samples); const e=m.envelope(); const on=findOnsets(e,{sensitivity:.85});
  const off=truth.flatMap(t=>{const c=on.filter(o=>Math.abs(o.time-t)<0.03).sort((a,b)=>Math.abs(a.time-t)-Math.abs(b.time-t))[0]; return c?[(c.time-t)*1000]:[]}).sort((a,b)=>a-b);
  const q=(p:number)=>off[Math.floor(p*(off.length-1))]?.toFixed(1);
  console.log(name.padEnd(24),off.length,'of',truth.length,'q10',q(.1),'median',q(.5),'q90',q(.9),'mean',(off.reduce((a,b)=>a+b,0)/off.length).toFixed(2));
};
for(const [n,h] of [['kick',kick],['click',click],['hat',hat]] as const){const t=Array.from({length:50},(_,i)=>0.3+i*0.5013); for(const r of [44100,48000]) show(n+r,sound(r,27,t.map(at=>({at,hit:h}))),r,t);}
for(const s of songs) show(s.name,sound(44100,s.seconds,s.hits),44100,s.beats);
for(const [n,{beats,sound:p}] of Object.entries(pieces)){const [l,r]=p(); show(n,l.map((v,i)=>(v+r[i])/2),48000,beats)}
for(const id of readdirSync('/work/main/.data/fit/beats').filter(x=>/^(trance|50srock|8beat|chacha|countrywaltz|boneym|basicrock|ballad|blues)-\d\.json/.test(x)).map(x=>x.slice(0,-5))){show(id,await readSound(`/work/main/.data/fit/beats/${id}.flac`),44100,JSON.parse(readFileSync(`/work/main/.data/fit/beats/${id}.json`,'utf8')).beats)}
