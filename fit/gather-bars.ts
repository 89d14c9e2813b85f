import { existsSync, readdirSync, readFileSync, writeFileSync, mkdirSync } from 'node:fs';
import { EnvelopeMaker } from '@hastig/core';
import { barWays } from '../core/src/beats/bar-features';
import { readSound } from './beats/sound-file';
const dir='/work/main/.data/fit/beats/', out=process.argv[2]!;
mkdirSync(out,{recursive:true});
const rd=(x:number)=>Math.round(x*1e4)/1e4;
for(const id of readdirSync(dir).filter(x=>x.endsWith('.json')).map(x=>x.slice(0,-5))){
    if(existsSync(`${out}/${id}.json`)) continue;
    const {beats,first}=JSON.parse(readFileSync(dir+id+'.json','utf8'));
    const m=new EnvelopeMaker(44100); m.push(await readSound(dir+id+'.flac'));
    const w=barWays(m.envelope(),beats);
    writeFileSync(`${out}/${id}.json`,JSON.stringify({first,ways:w.map(({beats,first,features})=>({beats,first,features:features.map(rd)}))}));
}
