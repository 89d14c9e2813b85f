import { renderHook } from '@testing-library/react';
import { useSame } from './use-same';

it('stays the same object while it says the same', () => {
  const { result, rerender } = renderHook(({ value }) => useSame(value), { initialProps: { value: [{ at: 1 }] } });
  const first = result.current;
  rerender({ value: [{ at: 1 }] });
  expect(result.current).toBe(first);
  rerender({ value: [{ at: 2 }] });
  expect(result.current).toEqual([{ at: 2 }]);
  rerender({ value: [{ at: 1 }] });
  expect(result.current).toEqual([{ at: 1 }]);
});
