import { useEffect, type CSSProperties } from 'react';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { comparingSet, turnTaken } from '../store/compare-slice';
import { WipeLine } from './wipe-line';

/** Milliseconds that each of two is seen that take turns. */
const TURN = 600;

/** Pixels of the picture as it is shown. */
interface ComparedMarksProps {
  width: number;
  height: number;
}

const mark: CSSProperties = {
  ...{ position: 'absolute', padding: '1px 6px', borderRadius: 6, background: 'rgb(0 0 0 / 0.6)' },
  ...{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
};

/** Which is which of two that are compared, and the line between them where there is one. */
export function ComparedMarks({ width, height }: ComparedMarksProps) {
  const dispatch = useAppDispatch();
  const on = useAppSelector((state) => state.compare.on);
  // One alone takes turns with the other.
  const blinking = on?.how.way === 'alone';
  useEffect(() => {
    if (!blinking) return undefined;
    const turns = setInterval(() => dispatch(turnTaken()), TURN);
    return () => clearInterval(turns);
  }, [blinking, dispatch]);
  if (!on) return null;
  const { how, names } = on;
  const [a, b] = [`A ${names.a}`, `B ${names.b}`];
  if (how.way === 'wipe')
    return (
      <WipeLine
        {...{ at: how.at, width, height, left: a, right: b, label: 'Wipe between A and B' }}
        onMove={(at) => dispatch(comparingSet({ at }))}
      />
    );
  const words = {
    beside: [a, b],
    above: [a, b],
    difference: [`${a} – ${b}, difference ×4`],
    alone: [how.alone === 'a' ? a : b],
  }[how.way];
  const second = how.way === 'above' ? { left: 6, top: height / 2 + 6 } : { left: width / 2 + 6, top: 6 };
  return (
    <div
      className="font-sans"
      style={{ position: 'absolute', width, height, pointerEvents: 'none', color: '#ede8df', fontSize: 12 }}
    >
      {words.map((name, index) => (
        <span
          key={index}
          style={{
            ...mark,
            maxWidth: how.way === 'beside' ? '46%' : '92%',
            ...(index === 0 ? { left: 6, top: 6 } : second),
          }}
        >
          {name}
        </span>
      ))}
    </div>
  );
}
