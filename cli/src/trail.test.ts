import { trailOf } from './trail';

it('a trail is told in one word', () => {
  expect(trailOf('0.04,5,0.8,lightest')).toEqual({
    ...{ id: 'trail', kind: 'trail', by: 'seconds', apart: 0.04, copies: 5, decay: 0.8, combine: 'lightest' },
  });
  expect(trailOf(' -1, 1, 0, over')).toMatchObject({ apart: -1, copies: 1, decay: 0, combine: 'over' });
});

it.each([
  ['0.04,5,0.8', 'needs four values'],
  ['0,5,0.8,mean', 'seconds must be between -10 and 10, and not 0'],
  ['11,5,0.8,mean', 'seconds must be between'],
  ['x,5,0.8,mean', 'seconds must be between'],
  ['1,0,0.8,mean', 'copies must be a whole number between 1 and 32'],
  ['1,2.5,0.8,mean', 'copies must be'],
  ['1,2,1.1,mean', 'decay must be between 0 and 1'],
  ['1,2,,mean', 'decay must be between 0 and 1'],
  ['1,2,1,darkest', 'combine must be one of lightest, mean, sum, over'],
])('%s is refused', (text, reason) => {
  expect(() => trailOf(text)).toThrow(reason);
});
