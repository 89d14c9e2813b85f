import { keyGroups, keysFor, keyWords } from './keys';

describe('the map of keys', () => {
  it('binds every key once', () => {
    const keys = keyGroups.flatMap(({ bindings }) => Object.values(bindings).map(({ key }) => key));
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
