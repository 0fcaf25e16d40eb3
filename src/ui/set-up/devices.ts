'use client';

import { useEffect, useState } from 'react';
import type { DeviceSource } from '@/core/rig/rig';

export type Device = { id: string; label: string };
export type Devices = { cameras: Device[]; microphones: Device[] };

/**
 * The real cameras and microphones, following plugging and unplugging. Until one was allowed once, browsers hide their
 * names and ids: then a single entry without an id stands for "the one the browser offers".
 */
export function useDevices(): Devices {
  const [devices, setDevices] = useState<Devices>({ cameras: [], microphones: [] });
  useEffect(() => {
    const { mediaDevices } = navigator;
    if (!mediaDevices) return;
    const look = async () => {
      const all = await mediaDevices.enumerateDevices().catch(() => []);
      const of = (kind: MediaDeviceKind, word: string) =>
        all
          .filter((device) => device.kind === kind && device.deviceId !== 'communications')
          .map((device, i) => ({ id: device.deviceId, label: device.label || `${word} ${i + 1}` }));
      setDevices({ cameras: of('videoinput', 'Camera'), microphones: of('audioinput', 'Microphone') });
    };
    void look();
    mediaDevices.addEventListener('devicechange', look);
    return () => mediaDevices.removeEventListener('devicechange', look);
  }, []);
  return devices;
}

export const deviceValue = (source: DeviceSource) =>
  source.from === 'practice' ? `practice:${source.id}` : `device:${source.id}`;

/** A device's entry, also when it is not plugged in now. */
export function deviceOptions(source: DeviceSource | undefined, devices: readonly Device[]) {
  const known = devices.map(({ id, label }) => ({ value: `device:${id}`, label }));
  if (source?.from === 'device' && !devices.some(({ id }) => id === source.id))
    known.push({
      value: `device:${source.id}`,
      label: `${source.label || 'The device of last time'} (not plugged in)`,
    });
  return known;
}

export function deviceSource(value: string, devices: readonly Device[]): DeviceSource {
  const id = value.slice(value.indexOf(':') + 1);
  if (value.startsWith('practice:')) return { from: 'practice', id };
  return { from: 'device', id, label: devices.find((device) => device.id === id)?.label ?? '' };
}
