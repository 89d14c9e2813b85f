/** What the judges are fitted by (`npm run fit`): the same that they are asked with. */
export { barWays } from './bar-features';
export { candidatesOf } from './candidates';
export { beatsJudge } from './beats-judge';
export * from './network';
