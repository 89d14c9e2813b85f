import type { ProjectDocument, SlowWay } from '@hastig/contract';
import { formatRate, rateKey, renameProject, sameRate, standardRates, withSequenceRate } from '@hastig/core';
import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronUp from 'lucide-react-native/icons/chevron-up';
import Search from 'lucide-react-native/icons/search';
import { useState } from 'react';
import { View } from 'react-native';
import { slowOptions } from '../../exposure/exposure-words';
import { rearrange } from '../../store/edit';
import { useAppDispatch } from '../../store/hooks';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { NameField } from '../../ui/name-field';
import { useWide } from '../../ui/use-wide';
import { sourceOrders, type SourceOrder } from './listed';

interface FootageHeadProps {
  project: ProjectDocument;
  find: string;
  onFind(text: string): void;
  order: SourceOrder;
  onOrder(order: SourceOrder): void;
}

/** What stands above the footage: the project's settings and the search, shut on a phone so that footage comes first. */
export function FootageHead({ project, find, onFind, order, onOrder }: FootageHeadProps) {
  const wide = useWide();
  const [settings, setSettings] = useState(false);
  const [searching, setSearching] = useState(false);
  const several = project.sources.length > 1;
  return (
    <View className="gap-3">
      <View className="flex-row flex-wrap gap-2">
        <Button
          label={`Settings: ${formatRate(project.sequence.rate)} fps`}
          icon={settings ? ChevronUp : ChevronDown}
          expanded={settings}
          onPress={() => setSettings(!settings)}
        />
        {several && !wide ? (
          <Button label="Search" icon={Search} expanded={searching} onPress={() => setSearching(!searching)} />
        ) : null}
      </View>
      {settings ? <ProjectName project={project} /> : null}
      {settings ? <SequenceRate project={project} /> : null}
      {settings ? <Arrivals project={project} /> : null}
      {settings ? <SlowParts project={project} /> : null}
      {several && (wide || searching || find !== '') ? (
        <View className={wide ? 'max-w-[720px] flex-row items-start gap-3' : 'gap-3'}>
          <Field label="Search" words value={find} onChange={onFind} hint="Name, codec or frame rate" />
          <Choice label="Sort by" value={order} onChange={onOrder} options={sourceOrders} />
        </View>
      ) : null}
    </View>
  );
}

function ProjectName({ project }: { project: ProjectDocument }) {
  const dispatch = useAppDispatch();
  const rename = (name: string): void =>
    void dispatch(rearrange('rename the project', (now) => renameProject(now, name)));
  return (
    <View className="max-w-[720px] flex-row">
      <NameField label="Project name" name={project.name} onName={rename} />
    </View>
  );
}

/** Whether what comes in goes to the timeline by itself. */
function Arrivals({ project }: { project: ProjectDocument }) {
  const dispatch = useAppDispatch();
  const { arrivals } = project.defaults;
  const choose = (value: typeof arrivals): void =>
    void dispatch(
      rearrange('change where imports go', (now) => ({ ...now, defaults: { ...now.defaults, arrivals: value } })),
    );
  return (
    <View className="flex-row">
      <Choice
        label="On import"
        value={arrivals}
        onChange={choose}
        options={[
          { value: 'lay', label: 'Add to timeline' },
          { value: 'wait', label: 'Keep here' },
        ]}
      />
    </View>
  );
}

/** What slow parts of clips show that are made from now on. */
function SlowParts({ project }: { project: ProjectDocument }) {
  const dispatch = useAppDispatch();
  const choose = (slow: SlowWay): void =>
    void dispatch(
      rearrange('change slow parts of new clips', (now) => ({ ...now, defaults: { ...now.defaults, slow } })),
    );
  return (
    <View className="flex-row">
      <Choice
        label="Slow parts of new clips"
        value={project.defaults.slow ?? 'held'}
        onChange={choose}
        options={slowOptions}
      />
    </View>
  );
}

/** The rate that all clips are retimed to; changing it keeps their speeds and their lengths in seconds. */
function SequenceRate({ project }: { project: ProjectDocument }) {
  const dispatch = useAppDispatch();
  const { rate } = project.sequence;
  const choices = standardRates.some((one) => sameRate(one, rate)) ? standardRates : [rate, ...standardRates];
  const choose = (key: string): void => {
    const chosen = choices.find((one) => rateKey(one) === key);
    if (!chosen || sameRate(chosen, rate)) return;
    dispatch(rearrange('change the rate', (now) => withSequenceRate(now, chosen)));
  };
  const options = choices.map((one) => ({ value: rateKey(one), label: formatRate(one) }));
  return <Choice label="Sequence frame rate" value={rateKey(rate)} onChange={choose} options={options} />;
}
