import { combines, MOST_APART, MOST_COPIES, type Combine, type Trail } from '@hastig/contract';

/**
 * A trail as it is told on the command line: seconds from copy to copy (less than 0 for later ones), copies, what each counts of the
 * one before, and how they combine, as `0.04,5,0.8,lightest`.
 *
 * @throws Error with what is wrong with it
 */
export function trailOf(text: string): Trail {
  const parts = text.split(',').map((part) => part.trim());
  if (parts.length !== 4) throw new Error('needs four values: SECONDS,COPIES,DECAY,COMBINE');
  const [apart, copies, decay] = parts.slice(0, 3).map((part) => (part === '' ? NaN : Number(part))) as [
    number,
    number,
    number,
  ];
  const most = MOST_APART.seconds;
  if (!(Math.abs(apart) <= most) || apart === 0)
    throw new Error(`seconds must be between -${most} and ${most}, and not 0`);
  if (!Number.isInteger(copies) || copies < 1 || copies > MOST_COPIES)
    throw new Error(`copies must be a whole number between 1 and ${MOST_COPIES}`);
  if (!(decay >= 0 && decay <= 1)) throw new Error('decay must be between 0 and 1');
  const combine = combines.find((one): one is Combine => one === parts[3]);
  if (!combine) throw new Error(`combine must be one of ${combines.join(', ')}`);
  return { id: 'trail', kind: 'trail', by: 'seconds', apart, copies, decay, combine };
}
