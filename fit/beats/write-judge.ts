import type { Gate, Judge } from '@hastig/core/fit';
import { format, resolveConfig } from 'prettier';
import { rootFolder } from '../../scripts/paths';

/** The file of a judge's numbers, as it is kept in the core. */
export async function judgeFile(name: 'beats' | 'bars', judge: Judge, pieces: number): Promise<string> {
  const what = name === 'beats' ? 'ways to count a piece' : 'ways beats make bars';
  const text = `import type { Judge } from './network';

/**
 * What ranks ${what}. Made by \`npm run fit -- ${name}\`, not by hand: fitted to ${pieces} pieces, those of Debian's \`mma\` styles at even
 * places played in many ways, made songs and loops of played drums; \`docs/beats.md\` says how well it does on styles it has not seen.
 */
// prettier-ignore
export const ${name}Judge: Judge = ${JSON.stringify(judge)
    .replace(/\],\[/g, '],\n[')
    .replace(/"(\w+)":/g, '$1: ')
    .replace(/,/g, ', ')};
`;
  return formatted(text);
}

/** The file of the gate's numbers. */
export async function gateFile(gate: Gate, music: number, without: number): Promise<string> {
  return formatted(`import type { Gate } from './network';

/**
 * What tells music from sound without a beat. Made by \`npm run fit -- gate\`, not by hand: fitted to ${music} pieces of music whose beats
 * are found, and ${without} sounds without one: talk, noise, hits at random.
 */
// prettier-ignore
export const beatGate: Gate = ${JSON.stringify(gate)
    .replace(/"(\w+)":/g, '$1: ')
    .replace(/,/g, ', ')};
`);
}

async function formatted(text: string): Promise<string> {
  const options = await resolveConfig(rootFolder);
  return format(text, { ...options, parser: 'typescript' });
}
