import { filmRemedy, findClip, findingWords, formatTime, type Finding } from '@hastig/core';
import { useRouter } from 'expo-router';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { useMissing } from '../../../project/use-missing';
import { useStage } from '../../../stage/stage-context';
import { rearrange } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { Button } from '../../../ui/button';
import { SoundCheck } from './sound-check';
import { useFilmCheck } from './use-film-check';

/** Findings that are shown at once; more when one asks. */
const SHOWN = 20;

/** What may be wrong with the film before it goes out: one list, each with its place and, where there is one, its remedy. */
export function FilmCheck({ projectId }: { projectId: string }) {
  const project = useAppSelector((state) => state.project.document)!;
  const findings = useFilmCheck(project);
  const missing = useMissing(projectId);
  const router = useRouter();
  const [most, setMost] = useState(SHOWN);
  const count = (findings?.length ?? 0) + missing.length;
  return (
    <View role="group" aria-label="Check" className="gap-2 border-t border-line pt-4">
      <Text role="heading" aria-level={2} className="font-medium text-[16px] text-bone">
        Check
      </Text>
      <Text role="status" className="font-sans text-[14px] text-quiet">
        {findings === undefined
          ? 'Looking through the film…'
          : count === 0
            ? 'Clean: no gaps, nothing out of source, backwards, held or too fast that was not asked for, no missing media.'
            : `${count} ${count === 1 ? 'thing' : 'things'} to look at.`}
      </Text>
      <View role="list" aria-label="To look at" className="gap-2">
        {missing.map(({ sha256, name }) => (
          <View key={sha256} role="listitem" className="gap-2 rounded-lg border border-line bg-ink p-3">
            <Text className="font-sans text-[14px] text-bone">{`The file of ${name} is missing on the server.`}</Text>
            <View className="flex-row">
              <Button label="Choose it in Footage" onPress={() => router.push(`/project/${projectId}`)} />
            </View>
          </View>
        ))}
        {findings?.slice(0, most).map((finding) => (
          <FindingRow key={`${finding.kind} ${finding.clipId ?? ''} ${finding.from}`} finding={finding} />
        ))}
      </View>
      {findings && findings.length > most ? (
        <View className="flex-row">
          <Button label={`Show ${findings.length - most} more`} onPress={() => setMost(Infinity)} />
        </View>
      ) : null}
      <SoundCheck project={project} />
    </View>
  );
}

function FindingRow({ finding }: { finding: Finding }) {
  const project = useAppSelector((state) => state.project.document)!;
  const unit = useAppSelector((state) => state.session.unit);
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const { rate, startFrame } = project.sequence;
  const clip = finding.clipId === undefined ? undefined : findClip(project, finding.clipId);
  const remedy = filmRemedy(project, finding);
  const first = Math.ceil(finding.from - 1e-6);
  return (
    <View role="listitem" className="gap-2 rounded-lg border border-line bg-ink p-3">
      <Text className="font-sans text-[14px] text-bone">
        {`${clip ? `${clip.name}: ` : ''}${findingWords(finding)}`}
      </Text>
      <View className="flex-row flex-wrap gap-2">
        <Button
          label={`Go to ${formatTime(unit === 'timecode' ? first + startFrame : first, rate, unit)}`}
          onPress={() => seek(first)}
        />
        {remedy ? (
          <Button
            label={remedy.words}
            onPress={() => void dispatch(rearrange(remedy.words.toLowerCase(), remedy.apply))}
          />
        ) : null}
      </View>
    </View>
  );
}
