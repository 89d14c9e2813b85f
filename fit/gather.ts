import { existsSync, readdirSync, readFileSync, writeFileSync, mkdirSync } from 'node:fs';
import MusicTempo from 'music-tempo';
import { fAtBestLevel, fMeasure } from '@hastig/core/test/songs';
import { measured } from './beats/readings';
import { RATE, readSound } from './beats/sound-file';
const dir='/work/main/.data/fit/beats/', out=process.argv[2]!; const [k,n]=[Number(process.argv[3]??0),Number(process.argv[4]??1)];
mkdirSync(out,{recursive:true});
const rd=(x:number)=>Math.round(x*1e4)/1e4;
for(;;){
  let did=0;
  const ids=readdirSync(dir).filter(x=>x.endsWith('.json')).map(x=>x.slice(0,-5));
  for(const [i,id] of ids.entries()){
    if(i%n!==k&&n>1) continue;
    if(existsSync(`${out}/${id}.json`)) continue;
    const {beats}=JSON.parse(readFileSync(dir+id+'.json','utf8'));
    const s=await readSound(dir+id+'.flac');
    const m=measured(s,RATE,beats);
    let mt:number[]=[]; try{mt=new MusicTempo(s).beats}catch{}
    writeFileSync(`${out}/${id}.json`,JSON.stringify({features:m.features.map(r=>r.map(rd)),f:m.f.map(rd),best:m.best.map(rd),mt:[rd(fMeasure(mt,beats)),rd(fAtBestLevel(mt,beats))]}));
    did++;
  }
  if(!did){ if(ids.length>=848) break; await new Promise(r=>setTimeout(r,5000)); }
}
console.log('done');
