import type { HandleDefinition, ZoneDefinition } from '../model/index.ts'

/** A point in the frame of an instance that is `scale` times as large as its type. */
export function scaledPoint(
  [x, y, z]: readonly [number, number, number],
  scale: number,
): readonly [number, number, number] {
  return [x * scale, y * scale, z * scale]
}

/** The size of a body, in metres; null where there is none. */
export function scaledSize(
  size: readonly [number, number] | undefined,
  scale: number,
): readonly [number, number] | null {
  return size ? [size[0] * scale, size[1] * scale] : null
}

/** Where a handle is; null where there is none. */
export function scaledHandle(handle: HandleDefinition | undefined, scale: number): HandleDefinition | null {
  if (!handle || scale === 1) return handle ?? null
  if (Array.isArray(handle)) return [...scaledPoint(handle, scale)]
  return { ...handle, inset: (handle.inset ?? 0.1) * scale, height: (handle.height ?? 1) * scale }
}

/** A zone in the frame of an instance. */
export function scaledZone(zone: ZoneDefinition, scale: number): ZoneDefinition {
  const { radius, box, sector, ring, outline, at } = zone
  const point = ([x, y]: readonly number[]): [number, number] => [(x ?? 0) * scale, (y ?? 0) * scale]
  return {
    ...zone,
    ...(radius === undefined ? {} : { radius: radius * scale }),
    ...(box ? { box: point(box) } : {}),
    ...(sector ? { sector: { ...sector, radius: sector.radius * scale } } : {}),
    ...(ring ? { ring: { from: ring.from * scale, to: ring.to * scale } } : {}),
    ...(outline ? { outline: outline.map((p) => point(p)) } : {}),
    ...(at ? { at: point(at) } : {}),
  }
}
