import type { TakeId } from '../lesson/ids';

/**
 * The same edition, plan or part of one, about takes of other names: such as those of a copy of the lesson. What names no take, or
 * one that has no other name, stays as it is.
 */
export function withTakesRenamed<Value>(value: Value, names: ReadonlyMap<TakeId, TakeId>): Value {
  if (Array.isArray(value)) return value.map((one: unknown) => withTakesRenamed(one, names)) as Value;
  if (typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).map(([key, own]: [string, unknown]) =>
    key === 'take' ? [key, names.get(own as TakeId) ?? own] : [key, withTakesRenamed(own, names)],
  );
  return Object.fromEntries(entries) as Value;
}
