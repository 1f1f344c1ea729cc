/**
 * A component for Alpine. What it holds may use what Alpine gives: $root, $refs.
 * @template {object} T
 * @param {(...given: any[]) => T & ThisType<T & Magic>} make
 * @returns {(...given: any[]) => T}
 */
export const component = (make) => make;
