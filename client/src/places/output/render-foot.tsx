import type { RenderProgress, StoredRender } from '@hastig/engine';
import type { ReactNode } from 'react';
import { Text, View } from 'react-native';
import { CommandButton } from '../../commands/command-button';
import { useCommandKeys } from '../../commands/use-commands';
import { useAppSelector } from '../../store/hooks';
import { cancelRender } from '../../store/render-clip';
import { Progress } from '../../ui/progress';
import { downloadRender } from './download-render';
import { outputCommands } from './output-commands';

interface RenderFootProps {
  /** What the file will be. */
  what: string;
  /** Whether there is nothing to render. */
  empty: boolean;
  renders: readonly StoredRender[];
  /** How long it will take, in words, where it was found out. */
  estimated: string | undefined;
  estimating: boolean;
  onRender(): void;
  onEstimate(): void;
}

/** Beneath the form, always in sight: what becomes of it, the start, how far it is, and what came of it. */
export function RenderFoot({ what, empty, renders, estimated, estimating, onRender, onEstimate }: RenderFootProps) {
  const { file, progress, outcome } = useAppSelector((state) => state.render);
  const made = renders.find(({ name }) => name === outcome?.made)?.name;
  const context = {
    ...{ empty, running: file !== null, estimating, made },
    ...{ render: onRender, estimate: onEstimate, cancel: cancelRender },
    download: (name: string) => void downloadRender(name),
  };
  useCommandKeys(outputCommands, context);
  const [render, guess, cancel, download] = outputCommands;
  return (
    <View className="flex-none items-center border-t border-line bg-raised px-4 py-2">
      <View className="w-full max-w-[720px] gap-2">
        {outcome ? (
          <View className="flex-row items-center gap-3">
            <Text
              role={outcome.bad ? 'alert' : 'status'}
              className={`min-w-0 flex-1 font-sans text-[14px] ${outcome.bad ? 'text-wrong' : 'text-bone'}`}
            >
              {outcome.text}
            </Text>
            {made ? <CommandButton command={download} context={context} /> : null}
          </View>
        ) : null}
        {file ? (
          <RunningRow file={file} progress={progress}>
            <CommandButton command={cancel} context={context} words="plain" />
          </RunningRow>
        ) : (
          <View className="flex-row items-center gap-3">
            <View className="min-w-0 flex-1">
              <Text className="font-sans text-[13px] text-quiet">{what}</Text>
              {estimated ? (
                <Text role="status" className="font-sans text-[13px] text-quiet">
                  {estimated}
                </Text>
              ) : null}
            </View>
            <CommandButton command={guess} context={context} />
            <CommandButton command={render} context={context} words="primary" />
          </View>
        )}
      </View>
    </View>
  );
}

interface RunningRowProps {
  file: string;
  progress: RenderProgress | null;
  children: ReactNode;
}

function RunningRow({ file, progress, children }: RunningRowProps) {
  const remaining =
    progress && Number.isFinite(progress.secondsLeft) ? `${Math.ceil(progress.secondsLeft)} s left` : 'starting';
  return (
    <View className="gap-2">
      <Text className="font-mono text-[13px] tabular-nums text-bone">
        {progress
          ? `${progress.done} of ${progress.total} frames · ${progress.framesPerSecond.toFixed(0)} fps · ${remaining}`
          : 'Opening clip…'}
      </Text>
      <Text className="font-sans text-[13px] text-quiet">{`${file}. You can keep working.`}</Text>
      <Progress label="Render" value={progress ? progress.done / progress.total : 0} />
      {children}
    </View>
  );
}
