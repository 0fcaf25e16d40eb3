'use client';

import { useRouter } from 'next/navigation';
import type { Light } from './light';

/** Day or night; kept in a cookie, so that the server already draws the right one. */
export function LightSwitch({ light }: { light: Light }) {
  const router = useRouter();
  const other: Light = light === 'day' ? 'night' : 'day';
  const change = () => {
    // biome-ignore lint/suspicious/noDocumentCookie: the Cookie Store API is not in every browser that can play a take
    document.cookie = `light=${other};path=/;max-age=31536000;samesite=strict`;
    router.refresh();
  };
  return (
    <button
      type="button"
      className="icon"
      onClick={change}
      aria-label={other === 'night' ? 'Night colours' : 'Day colours'}
      title={other === 'night' ? 'Night colours' : 'Day colours'}
    >
      <svg
        width="20"
        height="20"
        viewBox="0 0 20 20"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.8"
        strokeLinecap="round"
        aria-hidden="true"
      >
        {other === 'night' ? (
          <path d="M16.500 12.500A7 7 0 0 1 7.500 3.500 7 7 0 1 0 16.500 12.500Z" />
        ) : (
          <path d="M10 6.200a3.800 3.800 0 1 0 0 7.600 3.800 3.800 0 0 0 0-7.600ZM10 1.500v1.800M10 16.700v1.800M1.500 10h1.800M16.700 10h1.800M4 4l1.300 1.300M14.700 14.700 16 16M16 4l-1.300 1.300M5.300 14.700 4 16" />
        )}
      </svg>
    </button>
  );
}
