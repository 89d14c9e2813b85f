import type { RenderProgress, StoredRender } from '@hastig/engine';
import X from 'lucide-react-native/icons/x';
import { useEffect, useMemo, type ReactNode } from 'react';
import { Image, Text, View } from 'react-native';
import { CommandButton } from '../../commands/command-button';
import { useCommandKeys } from '../../commands/use-commands';
import { NotifyButton } from '../../project/notify-button';
import { cancelRender, dropRender, pauseRender } from '../../store/render-queue';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { IconButton } from '../../ui/button';
import { formatBytes } from '../../ui/format';
import { Progress } from '../../ui/progress';
import { downloadRender } from './download-render';
import { outputCommands, outputIcons } from './output-commands';

interface RenderFootProps {
  /** What the files will be. */
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
  const { queue, progress, paused, outcomes } = useAppSelector((state) => state.render);
  const dispatch = useAppDispatch();
  const [current, ...waiting] = queue;
  const made = outcomes
    .map((outcome) => outcome.made)
    .find((name) => name !== undefined && renders.some((render) => render.name === name));
  const context = {
    ...{ empty, running: current !== undefined, paused, estimating, made },
    ...{ render: onRender, estimate: onEstimate, cancel: cancelRender },
    pause: (now: boolean) => void dispatch(pauseRender(now)),
    download: (name: string) => void downloadRender(name),
  };
  useCommandKeys(outputCommands, context);
  const [render, guess, cancel, download, pause] = outputCommands;
  return (
    <View className="flex-none items-center border-t border-line bg-raised px-4 py-2">
      <View className="w-full max-w-[720px] gap-2">
        {outcomes.map((outcome) => (
          <View key={outcome.id} className="flex-row items-center gap-3">
            <Text
              role={outcome.bad ? 'alert' : 'status'}
              className={`min-w-0 flex-1 font-sans text-[14px] ${outcome.bad ? 'text-wrong' : 'text-bone'}`}
            >
              {outcome.text}
            </Text>
            {made !== undefined && outcome.made === made ? (
              <CommandButton command={download} context={context} />
            ) : null}
          </View>
        ))}
        {current ? (
          <RunningRow file={current.file} progress={progress} paused={paused}>
            <CommandButton
              command={pause}
              context={context}
              label={paused ? 'Resume render' : 'Pause render'}
              {...(paused && { icon: outputIcons.resume })}
            />
            <NotifyButton />
            <CommandButton command={cancel} context={context} words="plain" />
          </RunningRow>
        ) : null}
        {waiting.length > 0 ? (
          <View role="list" aria-label="Waiting" className="gap-1">
            {waiting.map(({ id, file }) => (
              <View key={id} role="listitem" className="flex-row items-center gap-2">
                <Text numberOfLines={1} className="min-w-0 flex-1 font-sans text-[13px] text-quiet">
                  {`Next: ${file}`}
                </Text>
                <IconButton label={`Don’t render ${file}`} icon={X} onPress={() => dispatch(dropRender(id))} />
              </View>
            ))}
          </View>
        ) : null}
        <View className="flex-row items-center gap-3">
          <View className="min-w-0 flex-1">
            <Text className="font-sans text-[13px] text-quiet">{what}</Text>
            {estimated ? (
              <Text role="status" className="font-sans text-[13px] text-quiet">
                {estimated}
              </Text>
            ) : null}
          </View>
          {current ? null : <CommandButton command={guess} context={context} />}
          <CommandButton
            command={render}
            context={context}
            label={current ? 'Add to queue' : 'Render'}
            words={current ? 'plain' : 'primary'}
          />
        </View>
      </View>
    </View>
  );
}

interface RunningRowProps {
  file: string;
  progress: RenderProgress | null;
  paused: boolean;
  children: ReactNode;
}

function RunningRow({ file, progress, paused, children }: RunningRowProps) {
  return (
    <View className="gap-2">
      <View className="flex-row items-center gap-3">
        <Small picture={progress?.picture} />
        <View className="min-w-0 flex-1">
          <Text className="font-mono text-[13px] tabular-nums text-bone">{progressWords(progress, paused)}</Text>
          <Text className="font-sans text-[13px] text-quiet">{`${file}. You can keep working.`}</Text>
        </View>
      </View>
      <Progress label="Render" value={progress ? progress.done / progress.total : 0} />
      <View className="flex-row items-center justify-end gap-2">{children}</View>
    </View>
  );
}

function progressWords(progress: RenderProgress | null, paused: boolean): string {
  if (!progress) return 'Opening clip…';
  if (progress.listening) return `Measuring loudness, ${Math.round(100 * progress.done)}%`;
  const { done, total, framesPerSecond, secondsLeft, bytes } = progress;
  const left = paused ? 'paused' : Number.isFinite(secondsLeft) ? `${Math.ceil(secondsLeft)} s left` : 'starting';
  return `${done} of ${total} frames · ${framesPerSecond.toFixed(0)} fps · ${formatBytes(bytes)} · ${left}`;
}

/** What is made now. */
function Small({ picture }: { picture: Blob | undefined }) {
  const address = useMemo(() => (picture ? URL.createObjectURL(picture) : undefined), [picture]);
  useEffect(() => () => void (address && URL.revokeObjectURL(address)), [address]);
  if (!address) return null;
  return (
    <Image
      source={{ uri: address }}
      accessibilityLabel="What is rendered now"
      resizeMode="contain"
      className="h-[54px] w-[96px] rounded bg-ink"
    />
  );
}
