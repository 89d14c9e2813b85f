import { useRef, type CSSProperties, type ReactNode } from 'react';
import { useAppDispatch } from '../store/hooks';
import { fullScreenToggled } from '../store/session-slice';
import { useSize } from '../time-view/use-size';
import { Picture } from './picture';
import { StageFormContext, type StageForm } from './stage-form';
import { Transport } from './transport';
import { useFullScreen, useOverlay } from './use-full-screen';

const filling: CSSProperties = { position: 'fixed', inset: 0, zIndex: 40, display: 'flex', flexDirection: 'column' };

/** Pixels across that all controls need beside one another. */
const CONTROLS = 350;

function laidOut(width: number, height: number, stripBelow: number): StageForm {
  // A pixel is the size of what is not laid out yet.
  if (height > 1 && height < stripBelow) return 'strip';
  return width > 1 && width < CONTROLS ? 'narrow' : 'stacked';
}

interface StageFrameProps {
  style: CSSProperties;
  /** Pixels of height below which picture and controls stand side by side; 0 for never. */
  stripBelow: number;
  /** The numbers of what is shown. */
  readout: ReactNode;
}

/** The picture with its numbers and controls: one picture in every form, so that it goes on playing while the form changes. */
export function StageFrame({ style, stripBelow, readout }: StageFrameProps) {
  const dispatch = useAppDispatch();
  const frame = useRef<HTMLDivElement>(null);
  const { width, height } = useSize(frame);
  const full = useFullScreen();
  const [shown, toggle] = useOverlay(full);
  const form: StageForm = full ? 'full' : laidOut(width, height, stripBelow);
  return (
    <StageFormContext.Provider value={form}>
      <div
        ref={frame}
        data-stage={form}
        className={full ? 'on-picture' : ''}
        style={
          full
            ? { ...filling, cursor: shown ? 'auto' : 'none' }
            : { ...style, flexDirection: form === 'strip' ? 'row' : 'column' }
        }
      >
        <Picture onTap={full ? toggle : undefined} onDoubleTap={() => dispatch(fullScreenToggled())} />
        <div className={`stage-foot ${form}`} style={{ visibility: shown ? 'visible' : 'hidden' }}>
          {readout}
          <Transport />
        </div>
      </div>
    </StageFormContext.Provider>
  );
}
