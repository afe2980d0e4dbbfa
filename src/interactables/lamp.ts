import { builtInType } from './built-in.ts'

/** A lamp: lit while a condition holds, or from one signal to another. */
export const lamp = builtInType({
  about: 'Lit while a condition holds, or from one signal until another.',
  settings: {
    while: { kind: 'condition', about: 'It is lit while this holds.' },
    'lit-by': { kind: 'signal', about: 'It is lit by this signal.' },
    'put-out-by': { kind: 'signal', about: 'It is put out by this signal.' },
  },
  contradictions: [
    { settings: ['while', 'lit-by'], because: 'what follows a condition takes no signals.' },
    { settings: ['while', 'put-out-by'], because: 'what follows a condition takes no signals.' },
  ],
  states: {
    dark: { lasting: true, look: 'dark' },
    lit: { lasting: true, look: 'lit' },
  },
  transitions: [
    { name: 'light', from: 'dark', to: 'lit', trigger: { becomes: { all: [{ setting: 'while' }] } }, if: 'while' },
    {
      name: 'fade',
      from: 'lit',
      to: 'dark',
      trigger: { becomes: { not: { all: [{ setting: 'while' }] } } },
      if: 'while',
    },
    { name: 'light-on-signal', from: 'dark', to: 'lit', trigger: { signal: { setting: 'lit-by' } }, if: 'lit-by' },
    {
      name: 'fade-on-signal',
      from: 'lit',
      to: 'dark',
      trigger: { signal: { setting: 'put-out-by' } },
      if: 'put-out-by',
    },
  ],
  zones: { near: { radius: 1.2 } },
})
