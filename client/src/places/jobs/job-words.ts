import { MACHINE_GONE, type Machine, type ServerJob } from '@hastig/contract';
import { formatBytes } from '../../ui/format';

/** Seconds in words: `40 s`, `12 min`, `1.5 h`. */
function leftWords(seconds: number): string {
  if (seconds < 90) return `${Math.ceil(seconds)} s left`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min left`;
  return `${(seconds / 3600).toFixed(1)} h left`;
}

/** How far a job is, in words. */
export function jobWords(job: ServerJob): string {
  const { kind, state, done, total, framesPerSecond, parts, machines, needs, message, bytes } = job;
  const far =
    kind === 'render'
      ? `${Math.floor(done)} of ${Math.round(total)} frames`
      : `Converting, ${Math.floor((100 * done) / total)}%`;
  switch (state) {
    case 'waiting':
      if (kind === 'convert') return 'Waiting for a machine that converts';
      return needs === null ? 'Waiting for a machine' : `Waiting for a machine that encodes ${needs}`;
    case 'paused':
      return `Paused · ${far}`;
    case 'running': {
      const ends = parts !== null && parts.all > 1 && parts.done === parts.all - 1;
      const fast = framesPerSecond > 0 ? [`${framesPerSecond.toFixed(framesPerSecond < 10 ? 1 : 0)} fps`, leftWords((total - done) / framesPerSecond)] : []; // prettier-ignore
      return [ends ? 'Joining' : far, ...(ends ? [] : fast), machines.join(', ')].filter(Boolean).join(' · ');
    }
    case 'done':
      return kind === 'convert' ? 'Converted' : `Ready · ${formatBytes(bytes ?? 0)}`;
    case 'cancelled':
      return 'Cancelled';
    default:
      return `Failed: ${message ?? 'see the log'}`;
  }
}

/** Whether a machine was heard of lately. */
const isHeard = ({ heardAt }: Pick<Machine, 'heardAt'>, now: number): boolean =>
  heardAt !== null && now - Date.parse(heardAt) < MACHINE_GONE * 1000;

/** What a machine can do, when it was heard, and how fast it is. */
export function machineWords(machine: Machine, now: number): string {
  const { facts, heardAt, framesPerSecond, file } = machine;
  const minutes = heardAt === null ? 0 : Math.round((now - Date.parse(heardAt)) / 60_000);
  const heard = heardAt === null ? 'Never connected' : isHeard(machine, now) ? (file === null ? 'Ready' : `Working on ${file}`) : `Last seen ${minutes} min ago`; // prettier-ignore
  const does = facts?.can.map((kind) => ({ render: 'renders', convert: 'converts' })[kind]).join(' and ');
  return [
    heard,
    facts && (does || 'has neither Chromium nor GStreamer'),
    facts && `${facts.cores} ${facts.cores === 1 ? 'core' : 'cores'}`,
    facts?.codecs.join(', '),
    framesPerSecond !== null && `${framesPerSecond.toFixed(0)} fps so far`,
  ]
    .filter(Boolean)
    .join(' · ');
}

/**
 * Why no render can be handed over, in words with what to do; undefined where one can.
 *
 * @param needs how its pictures are coded, by its name; undefined where they are not
 */
export function noMachineWords(
  machines: readonly Machine[] | undefined,
  needs: string | undefined,
  now: number,
): string | undefined {
  if (!machines) return undefined;
  const heard = machines.filter((machine) => isHeard(machine, now));
  const renders = heard.filter(({ facts, scopes }) => facts?.can.includes('render') && scopes.includes('render'));
  if (needs === undefined ? renders.length > 0 : renders.some(({ facts }) => facts?.codecs.includes(needs)))
    return undefined;
  if (renders.length > 0)
    return `No connected machine encodes ${needs}. Choose another format, or add a machine that does. Jobs wait until then.`;
  return heard.length > 0
    ? 'No machine can render: Chromium is missing. Install it on the server (apt-get install chromium-headless-shell) and restart Hastig.'
    : 'No machine is connected. Restart Hastig, or add a machine below. Jobs wait until then.';
}
