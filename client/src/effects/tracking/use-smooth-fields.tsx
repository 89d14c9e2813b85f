import { SMOOTHED_OVER, type CameraModel, type EdgeWay, type Smooth, type Steady } from '@hastig/contract';
import { trimDecimals } from '@hastig/core';
import { useState, type ReactNode } from 'react';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { edgeOptions, modelOptions } from '../effect-words';

type Goal = 'window' | 'tripod';

interface SmoothFields {
  fields: ReactNode;
  /** What is chosen; undefined while the seconds are none. */
  chosen: Pick<Smooth, 'seconds' | 'model' | 'edges'> | undefined;
}

/**
 * How a camera is smoothed: over a while, or held as on a tripod; the choices, and what is chosen.
 *
 * @param before what it was, @param onTripod what is told of the frame on which it stands
 */
export function useSmoothFields(before: Steady | Smooth | undefined, onTripod: ReactNode): SmoothFields {
  const smooth = before?.kind === 'smooth' ? before : undefined;
  const [edges, setEdges] = useState<EdgeWay>(before?.edges ?? 'scale');
  const [goal, setGoal] = useState<Goal>(smooth && smooth.seconds === undefined ? 'tripod' : 'window');
  const [text, setText] = useState(trimDecimals(smooth?.seconds ?? 1, 2));
  const [model, setModel] = useState<CameraModel>(smooth?.model ?? 'similarity');
  const seconds = Number(text);
  const fits = seconds >= SMOOTHED_OVER.least && seconds <= SMOOTHED_OVER.most;
  return {
    chosen: goal === 'window' ? (fits ? { model, edges, seconds } : undefined) : { model, edges },
    fields: (
      <>
        <Choice<Goal>
          label="Camera"
          value={goal}
          onChange={setGoal}
          options={[
            { value: 'window', label: 'Smooth' },
            { value: 'tripod', label: 'Tripod' },
          ]}
        />
        {goal === 'window' ? (
          <Field
            label="Smoothed over, seconds"
            value={text}
            onChange={setText}
            hint="What swings faster than this is taken out; slower moves stay."
            {...(!fits && { fault: `${SMOOTHED_OVER.least} to ${SMOOTHED_OVER.most} seconds.` })}
            onStep={(by) => setText(trimDecimals(Math.max(SMOOTHED_OVER.least, (seconds || 0) + by * 0.1), 2))}
          />
        ) : (
          onTripod
        )}
        <Choice<CameraModel> label="Takes out" value={model} onChange={setModel} options={modelOptions} />
        <Choice<EdgeWay> label="Edges" value={edges} onChange={setEdges} options={edgeOptions} />
      </>
    ),
  };
}
