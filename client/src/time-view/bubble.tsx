/** What a drag comes to, beside the finger. */
export interface BubbleProps {
  x: number;
  y: number;
  text: string;
}

export function Bubble({ x, y, text, width }: BubbleProps & { width: number }) {
  // Above the finger, and never off the sides.
  return (
    <output
      style={{
        position: 'absolute',
        left: Math.min(Math.max(90, x), width - 90),
        top: Math.max(4, y - 56),
        transform: 'translateX(-50%)',
        maxWidth: 260,
        padding: '5px 9px',
        borderRadius: 8,
        background: 'rgb(var(--bone))',
        color: 'rgb(var(--ink))',
        font: '600 13px SplineSansMono_600SemiBold, monospace',
        pointerEvents: 'none',
        zIndex: 2,
      }}
    >
      {text}
    </output>
  );
}
