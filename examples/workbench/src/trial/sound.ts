/** Plays the sounds of a level as tones: every name has a tone of its own, so that one can tell them apart by ear. */
export class Tones {
  muted = false
  #context: AudioContext | null = null
  /** How many tones were played: for tests, and for whoever cannot hear. */
  played = 0

  /** Browsers only let a page sound once somebody has touched it. */
  wake(): void {
    this.#context ??= new AudioContext()
    if (this.#context.state === 'suspended') void this.#context.resume()
  }

  /** Plays a sound: `pitch` as a factor, `varies` as the share by which it may differ. */
  play(name: string, pitch: number, varies: number): void {
    const context = this.#context
    if (this.muted || !context) return
    const seed = hash(name)
    const factor = pitch * (1 + varies * (2 * Math.random() - 1))
    const at = context.currentTime
    const lasts = 0.12 + (seed % 5) * 0.06
    const gain = context.createGain()
    gain.gain.setValueAtTime(0.0001, at)
    gain.gain.exponentialRampToValueAtTime(0.16, at + 0.015)
    gain.gain.exponentialRampToValueAtTime(0.0001, at + lasts)
    gain.connect(context.destination)
    const tone = context.createOscillator()
    tone.type = (['triangle', 'sine', 'square', 'sawtooth'] as const)[seed % 4] ?? 'sine'
    const low = 150 + (seed % 23) * 24
    tone.frequency.setValueAtTime(low * factor, at)
    tone.frequency.exponentialRampToValueAtTime(low * factor * (seed % 2 === 0 ? 0.7 : 1.4), at + lasts)
    tone.connect(gain)
    tone.start(at)
    tone.stop(at + lasts)
    this.played++
  }
}

/** A number for a name, always the same. */
function hash(name: string): number {
  let sum = 7
  for (const letter of name) sum = (sum * 31 + letter.charCodeAt(0)) % 65_521
  return sum
}
