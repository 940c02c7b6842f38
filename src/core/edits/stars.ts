import { LIMITS, type Project, type Starred, changePattern, starSign, withStars } from "../score";

/**
 * Stars an idea of a pattern, or lets it go where it is starred already. Throws a RangeError where a pattern holds as
 * many as it can, or the idea has too many notes to be kept.
 */
export function toggleStar(project: Project, pattern: string, star: Starred): Project {
  return changePattern(project, pattern, (own) => {
    const stars = own.stars ?? [];
    const sign = starSign(star);
    const without = stars.filter((other) => starSign(other) !== sign);
    if (without.length < stars.length) return withStars(own, without);
    if (stars.length >= LIMITS.stars)
      throw new RangeError(`${LIMITS.stars} ideas are starred, which is the most of a pattern`);
    if (star.notes.length > LIMITS.starNotes)
      throw new RangeError(
        `An idea of more than ${LIMITS.starNotes.toLocaleString("en-GB")} notes is not kept`,
      );
    return withStars(own, [...stars, star]);
  });
}
