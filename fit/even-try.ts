import { readdirSync, readFileSync } from 'node:fs';
import { EnvelopeMaker, findBeats } from '@hastig/core'; import { findOnsets } from '../core/src/beats/onsets'; import { evenBeats } from '../core/src/beats/even';
import { songs, sound, kick, click, hat } from '@hastig/core/test/songs';
import { pieces } from '@hastig/demo';
import { readSound } from './beats/sound-file';
const show=(name:string,samples:Float32Array,rate:number,truth:readonly number[])=>{
  const m=new EnvelopeMaker(rate); m.push(samples); const e=m.envelope(); const on={all:findOnsets(e,{sensitivity:.85}),...Object.fromEntries((['low','mid','high'] as const).map(band=>[band,findOnsets(e,{band,sensitivity:.85})]))} as any; const b=findBeats(e)[0];
  const r=b&&evenBeats(b.beats,on);
  if(!r) return console.log(name,'played');
  const off=r.beats.map(x=>truth.reduce((m,t)=>Math.abs(x-t)<Math.abs(m)?x-t:m,9)).map(x=>x*1000);
  console.log(name.padEnd(24), r.tempi.map(t=>t.toFixed(4)).join(' '), 'off', Math.min(...off).toFixed(2), Math.max(...off).toFixed(2), r.beats.length, truth.length, b.beats.length);
};
for(const s of songs) show(s.name,sound(44100,s.seconds,s.hits),44100,s.beats);
for(const [n,{beats,sound:p}] of Object.entries(pieces)){const [l,r]=p(); show(n,l.map((v,i)=>(v+r[i])/2),48000,beats)}
{ const T=Array.from({length:500},(_,i)=>0.4+i*0.48); const h=T.flatMap((at,i)=>[{at,hit:kick},{at:at+.24,hit:hat},...(i%2?[{at,hit:hat}]:[])]); for (const r of [44100,48000]) show('4 min 125 '+r,sound(r,242,h),r,T)}
{ const T=Array.from({length:500},(_,i)=>0.4+i*60/127.33); const h=T.flatMap((at,i)=>[...(i%4==0?[{at,hit:kick}]:[]),{at:at+.24,hit:hat},{at,hit:hat}]); show('4 min 127.33',sound(44100,242,h),44100,T)}
for(const id of readdirSync('/work/main/.data/fit/beats').filter(x=>/^(trance|50srock|8beat|chacha|countrywaltz|boneym|fastwaltz|ballad|blues)-[0-4]\.json/.test(x)).map(x=>x.slice(0,-5))){show(id,await readSound(`/work/main/.data/fit/beats/${id}.flac`),44100,JSON.parse(readFileSync(`/work/main/.data/fit/beats/${id}.json`,'utf8')).beats)}
