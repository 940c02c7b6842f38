/**
 * A registry by id. It has no other names than those in it: an id such as “constructor”, which every
 * plain object answers to, is unknown here like any other.
 */
export function byId<T>(entries: Readonly<Record<string, T>>): Readonly<Record<string, T>> {
  return Object.freeze(Object.assign(Object.create(null) as Record<string, T>, entries));
}
