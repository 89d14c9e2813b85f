import type { OutputForm } from '@hastig/contract';
import {
  formatFacts,
  formatRate,
  hasPicture,
  pictureCodingNames,
  pictureCodingOf,
  soundCodingNames,
  soundCodingOf,
} from '@hastig/core';
import { removeRender, type StoredRender } from '@hastig/engine';
import Download from 'lucide-react-native/icons/download';
import Settings from 'lucide-react-native/icons/sliders-horizontal';
import RenderAgain from 'lucide-react-native/icons/rotate-ccw';
import Trash from 'lucide-react-native/icons/trash';
import { memo, useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { useAppDispatch } from '../../store/hooks';
import { forgetJob, keptJobs } from '../../store/kept-jobs';
import { renderAgain } from '../../store/render-queue';
import { IconButton } from '../../ui/button';
import { formatBytes } from '../../ui/format';
import { downloadRender } from './download-render';

interface RenderListProps {
  renders: readonly StoredRender[];
  onChanged(): void;
  /** Puts what one was asked for by into the form. */
  onSettings(form: OutputForm): void;
}

/** The files that were rendered in this browser, with what they are. */
export const RenderList = memo(function RenderList({ renders, onChanged, onSettings }: RenderListProps) {
  const dispatch = useAppDispatch();
  const [again, setAgain] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    keptJobs().then(setAgain, () => undefined);
  }, [renders]);
  const remove = async (name: string): Promise<void> => {
    await removeRender(name);
    await forgetJob(name).catch(() => undefined);
    onChanged();
  };
  if (renders.length === 0) {
    return (
      <Text className="font-sans text-[14px] text-quiet">
        No renders yet. Rendered files appear here and stay in this browser.
      </Text>
    );
  }
  return (
    <View role="list" aria-label="Rendered files" className="gap-1">
      {renders.map((render) => (
        <View
          key={render.name}
          role="listitem"
          className="flex-row items-center gap-1 rounded-lg border border-line bg-raised pl-3"
        >
          <View className="min-w-0 flex-1 py-1">
            <Text numberOfLines={1} className="font-sans text-[15px] text-bone">
              {render.name}
            </Text>
            <Text className="font-mono text-[12px] text-quiet">{detailWords(render)}</Text>
          </View>
          {again.has(render.name) ? (
            <IconButton
              label={`Render ${render.name} again as it was`}
              icon={RenderAgain}
              narrow
              onPress={() => void dispatch(renderAgain(render.name))}
            />
          ) : null}
          {render.details ? (
            <IconButton
              label={`Use the settings of ${render.name}`}
              icon={Settings}
              narrow
              onPress={() => onSettings(render.details!.form)}
            />
          ) : null}
          <IconButton
            label={`Download ${render.name}`}
            icon={Download}
            narrow
            onPress={() => void downloadRender(render.name)}
          />
          <IconButton label={`Delete ${render.name}`} icon={Trash} narrow onPress={() => void remove(render.name)} />
        </View>
      ))}
    </View>
  );
});

/** What a form's file is made of: `MP4, H.264 and AAC`. */
export function codingWords(form: OutputForm, sound: boolean): string {
  const [picture, heard] = [pictureCodingOf(form), sound ? soundCodingOf(form) : undefined];
  const codings = [picture && pictureCodingNames[picture], heard && soundCodingNames[heard]].filter(Boolean);
  return [formatFacts[form.format].name, codings.join(' and ')].filter(Boolean).join(', ');
}

function detailWords({ bytes, details }: StoredRender): string {
  if (!details) return formatBytes(bytes);
  const { form, width, height, rate, seconds, took } = details;
  const picture = hasPicture(form.format) ? `${width} × ${height}, ${formatRate(rate)} fps` : undefined;
  const coded = codingWords(form, form.sound !== false);
  return [formatBytes(bytes), `${seconds.toFixed(2)} s`, coded, picture, `made in ${took.toFixed(1)} s`]
    .filter(Boolean)
    .join(' · ');
}
