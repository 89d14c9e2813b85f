import { keyGroups, keysFor, keyWords } from './keys';

describe('the map of keys', () => {
  it.each(['pace', 'timeline'] as const)('binds every key once in %s', (here) => {
    const keys = keyGroups
      .filter(({ place }) => !place || place === here)
      .flatMap(({ bindings }) => Object.values(bindings).map(({ key }) => key));
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('names keys as they stand on a keyboard', () => {
    expect(['mod+shift+z', 'space', '+', 'shift+ArrowLeft', '?'].map(keyWords)).toEqual([
      'Ctrl + Shift + Z',
      'Space',
      '+',
      'Shift + ←',
      '?',
    ]);
  });

  it('gives listeners by the keys they are bound to', () => {
    const play = jest.fn();
    keysFor({ play })['space']!();
    expect(play).toHaveBeenCalledTimes(1);
  });
});
