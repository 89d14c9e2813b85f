import { beatsSet } from './beats/set';

const pieces = await beatsSet(Number(process.argv[2] ?? 12), (done, of) => {
  if (done % 20 === 0 || done === of) console.log(`${done} of ${of} pieces`);
});
console.log(pieces.length);
