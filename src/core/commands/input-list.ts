/** The inputs of one run of ffmpeg: filters call them by the order in which they were opened. */
export type InputList = { readonly args: string[]; opened: number };

export const noInputs = (): InputList => ({ args: [], opened: 0 });

/**
 * Adds an input.
 * @param options that stand before it and hold for it alone
 * @returns its number
 */
export function openInput(list: InputList, path: string, options: readonly string[] = []): number {
  list.args.push(...options, '-i', path);
  return list.opened++;
}
