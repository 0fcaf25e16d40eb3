import { z } from 'zod';

/** Factors on a picture; 1 leaves it as recorded. */
export const Look = z.object({
  /** On all three of red, green and blue. */
  brightness: z.number().min(0.25).max(2),
  /** About middle grey. */
  contrast: z.number().min(0.25).max(2),
  /** 0: grey. */
  saturation: z.number().min(0).max(2),
});
export type Look = z.infer<typeof Look>;

export const UNCHANGED: Look = { brightness: 1, contrast: 1, saturation: 1 };

/** Screen and camera are lit by different lamps. */
export const Looks = z.object({ screen: Look, camera: Look });
export type Looks = z.infer<typeof Looks>;

export const UNCHANGED_LOOKS: Looks = { screen: UNCHANGED, camera: UNCHANGED };

export const isUnchanged = ({ brightness, contrast, saturation }: Look): boolean =>
  brightness === 1 && contrast === 1 && saturation === 1;

/** As CSS says it ("Filter Effects Module Level 1", 13.1: brightness, contrast and saturate), in this order. */
export const cssFilter = ({ brightness, contrast, saturation }: Look): string =>
  `brightness(${brightness}) contrast(${contrast}) saturate(${saturation})`;

/**
 * The same on brightness and colour differences: y ↦ `yGain`·y + `yOffset` of its range 0…1, and colour differences ↦ `cGain` times. Brightness
 * and contrast scale red, green and blue alike, and with them the differences between them; saturation leaves the brightness alone.
 */
export function onYuv({ brightness, contrast, saturation }: Look): {
  yGain: number;
  yOffset: number;
  cGain: number;
} {
  return {
    yGain: brightness * contrast,
    yOffset: (1 - contrast) / 2,
    cGain: brightness * contrast * saturation,
  };
}
