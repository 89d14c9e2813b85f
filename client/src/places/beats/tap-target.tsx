import { Text } from 'react-native';

interface TapTargetProps {
  name: string;
  /** What stands on it. */
  words: string;
  /** A tap, by pointer or key, at a wall time (ms since 1970): when the finger came down, not when that was noticed. */
  onTap(wall: number): void;
}

/** A large pad to tap on in time. */
export function TapTarget({ name, words, onTap }: TapTargetProps) {
  const at = ({ timeStamp }: { timeStamp: number }): void => onTap(performance.timeOrigin + timeStamp);
  return (
    <div
      role="button"
      tabIndex={0}
      aria-label={name}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.preventDefault();
        at(event);
      }}
      onKeyDown={(event) => {
        if (event.repeat || (event.key !== 'Enter' && event.key !== ' ')) return;
        event.preventDefault();
        event.stopPropagation();
        at(event);
      }}
      style={{
        height: 104,
        display: 'flex',
        alignItems: 'center',
        justifyContent: 'center',
        borderRadius: 14,
        border: '1px solid rgb(var(--line))',
        background: 'rgb(var(--ink))',
        touchAction: 'none',
        userSelect: 'none',
        cursor: 'pointer',
      }}
    >
      <Text className="font-medium text-[18px] text-bone">{words}</Text>
    </div>
  );
}
