import { versionHistory } from './version-history';

describe('earlier states', () => {
  it('are gathered by the minute, the latest of each, without the current one', () => {
    const at = (revision: number, time: string) => ({ revision, at: `2026-03-01T${time}.000Z` });
    const list = [at(6, '10:02:30'), at(5, '10:02:10'), at(4, '10:02:01'), at(3, '10:01:59'), at(2, '09:00:00')];
    expect(versionHistory(list, 6)).toEqual([
      { revision: 5, name: '', at: new Date('2026-03-01T10:02:10.000Z'), changes: 2 },
      { revision: 3, name: '', at: new Date('2026-03-01T10:01:59.000Z'), changes: 1 },
      { revision: 2, name: '', at: new Date('2026-03-01T09:00:00.000Z'), changes: 1 },
    ]);
  });

  it('stand by themselves where they have a name', () => {
    const at = (revision: number, name?: string) => ({
      ...{ revision, at: `2026-03-01T10:02:0${revision}.000Z` },
      ...(name && { name }),
    });
    const states = versionHistory([at(7), at(6), at(5), at(4, 'Before the music'), at(3), at(2)], 7);
    expect(states.map(({ revision, name, changes }) => [revision, name, changes])).toEqual([
      [6, '', 2],
      [4, 'Before the music', 3],
    ]);
  });
});
