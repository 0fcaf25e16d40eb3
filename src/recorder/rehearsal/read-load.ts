import { LoadReading } from '@/core/rehearsal/load';

/** How busy the machine of the server is, which is this one where people record at home; null where it cannot be asked. */
export async function readLoad(): Promise<LoadReading | null> {
  try {
    const response = await fetch('/api/load');
    return response.ok ? LoadReading.parse(await response.json()) : null;
  } catch {
    return null;
  }
}
