import {
  formatFactor,
  formatTime,
  type CompareSide,
  type Program,
  type ProgramNumbers,
  type TimeUnit,
} from '@hastig/core';
import { Text, View } from 'react-native';
import { useSession } from '../../store/hooks';
import { useNumbers } from './use-numbers';

const frames = (count: number): string => count.toLocaleString('en');

/** What is told of each side, from its numbers. */
const rows: readonly { label: string; of(numbers: ProgramNumbers, program: Program, unit: TimeUnit): string }[] = [
  { label: 'Length', of: (numbers, { rate }, unit) => formatTime(numbers.frames, rate, unit) },
  { label: 'Frames', of: (numbers) => frames(numbers.frames) },
  { label: 'Shown once', of: ({ once }) => frames(once) },
  { label: 'Repeated', of: ({ repeated }) => frames(repeated) },
  { label: 'Skipped', of: ({ skipped }) => frames(skipped) },
  { label: 'Interpolated', of: ({ made }) => frames(made) },
  { label: 'Longest run', of: ({ longestRun }) => frames(longestRun) },
  { label: 'Least speed', of: ({ slowest }) => (slowest === undefined ? '–' : formatFactor(slowest)) },
  { label: 'Greatest speed', of: ({ fastest }) => (fastest === undefined ? '–' : formatFactor(fastest)) },
];

/** A line of the table: what it is, and what it comes to on each side. */
function NumbersRow({ label, a, b, head = false }: { label: string; a: string; b: string; head?: boolean }) {
  const figure = head ? 'font-medium text-[14px] text-bone' : 'font-mono text-[14px] text-bone';
  return (
    <View role="row" className="min-h-[30px] flex-row items-center gap-2 border-b border-line">
      <Text role="rowheader" className="w-[116px] font-sans text-[13px] text-quiet">
        {label}
      </Text>
      {[a, b].map((text, index) => (
        <Text
          key={index}
          role={head ? 'columnheader' : 'cell'}
          numberOfLines={2}
          className={`min-w-0 flex-1 text-right ${figure}`}
        >
          {text}
        </Text>
      ))}
    </View>
  );
}

interface NumbersTableProps {
  names: Record<CompareSide, string>;
  programs: Record<CompareSide, Program | undefined>;
  /** More lines beneath. */
  more: readonly { label: string; a: string; b: string }[];
}

/** The numbers of both sides. */
export function NumbersTable({ names, programs, more }: NumbersTableProps) {
  const { unit } = useSession('unit');
  // Nothing to count is no figure; what is still being counted will be one.
  const figure = (
    of: (typeof rows)[number]['of'],
    numbers: ProgramNumbers | undefined,
    program: Program | undefined,
  ): string => (!program || program.length === 0 ? '–' : numbers ? of(numbers, program, unit) : '…');
  const [a, b] = [useNumbers(programs.a), useNumbers(programs.b)];
  return (
    <View role="table" aria-label="Numbers of A and B">
      <NumbersRow head label="Numbers" a={`A ${names.a}`} b={`B ${names.b}`} />
      {rows.map(({ label, of }) => (
        <NumbersRow key={label} label={label} a={figure(of, a, programs.a)} b={figure(of, b, programs.b)} />
      ))}
      {more.map((line) => (
        <NumbersRow key={line.label} {...line} />
      ))}
    </View>
  );
}
