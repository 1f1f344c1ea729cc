/**
 * A component for Alpine. What it holds may use what Alpine gives: $root, $refs; and what is mixed into it.
 * @template {object} T
 * @template {object} [M={}]
 * @param {(...given: any[]) => T & ThisType<T & M & Magic>} make
 * @param {M} [mixed] plain fields and methods, no getters
 * @returns {(...given: any[]) => T & M}
 */
export const component = (make, mixed) => (...given) => Object.assign(make(...given), mixed);
