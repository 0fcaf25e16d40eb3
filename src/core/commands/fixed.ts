/** A number as filters read it: as many decimals as matter to a pixel, and no exponent. */
export const fixed = (value: number): string => value.toFixed(6).replace(/\.?0+$/, '');
