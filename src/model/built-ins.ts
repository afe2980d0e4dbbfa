// Written by scripts/built-ins.mjs from the built-in types; a test compares.

/** What the built-in types have, by name. */
export interface BuiltInShapes {
  readonly door: {
    readonly states: {
      readonly locked: unknown
      readonly closed: unknown
      readonly opening: unknown
      readonly 'opening-on': unknown
      readonly open: unknown
      readonly closing: unknown
      readonly 'closing-on': unknown
    }
    readonly zones: {
      readonly near: unknown
    }
    readonly settings: {
      readonly lock: {
        readonly kind: 'group'
        readonly fields: {
          readonly item: {
            readonly kind: 'item'
          }
          readonly count: {
            readonly kind: 'count'
          }
          readonly 'item-use': {
            readonly kind: 'choice'
            readonly options: readonly ['keep', 'consume']
          }
          readonly needs: {
            readonly kind: 'condition'
          }
          readonly consumes: {
            readonly kind: 'items'
          }
          readonly keyhole: {
            readonly kind: 'interactable'
          }
          readonly signal: {
            readonly kind: 'signal'
          }
          readonly unlocking: {
            readonly kind: 'choice'
            readonly options: readonly ['opens', 'unlocks-only']
          }
        }
      }
      readonly 'opened-by': {
        readonly kind: 'triggers'
        readonly options: readonly ['press', 'enter', 'touch', 'signal']
      }
      readonly hinge: {
        readonly kind: 'choice'
        readonly options: readonly ['left', 'right']
      }
      readonly motion: {
        readonly kind: 'group'
        readonly fields: {
          readonly kind: {
            readonly kind: 'choice'
            readonly options: readonly ['turn', 'slide', 'vanish']
          }
          readonly degrees: {
            readonly kind: 'degrees'
          }
          readonly offset: {
            readonly kind: 'shift'
          }
          readonly over: {
            readonly kind: 'seconds'
          }
          readonly speed: {
            readonly kind: 'speed'
          }
          readonly direction: {
            readonly kind: 'choice'
            readonly options: readonly ['as-said', 'shorter', 'left', 'right']
          }
          readonly ease: {
            readonly kind: 'choice'
            readonly options: readonly ['steady', 'soft']
          }
          readonly 'press-while-moving': {
            readonly kind: 'choice'
            readonly options: readonly ['ignore', 'reverse', 'finish']
          }
        }
      }
      readonly 'closed-by': {
        readonly kind: 'triggers'
        readonly options: readonly ['press', 'leave', 'signal']
      }
      readonly closes: {
        readonly kind: 'group'
        readonly fields: {
          readonly after: {
            readonly kind: 'seconds'
          }
          readonly 'when-asked-again': {
            readonly kind: 'choice'
            readonly options: readonly ['keep-timer', 'restart-timer']
          }
          readonly locks: {
            readonly kind: 'yes-no'
          }
          readonly 'in-the-way': {
            readonly kind: 'choice'
            readonly options: readonly ['wait', 'reopen', 'push']
          }
        }
      }
      readonly 'exit-to': {
        readonly kind: 'group'
        readonly fields: {
          readonly place: {
            readonly kind: 'place'
          }
          readonly level: {
            readonly kind: 'level'
          }
          readonly drops: {
            readonly kind: 'item-names'
          }
        }
      }
      readonly 'stays-open': {
        readonly kind: 'yes-no'
      }
    }
  }
  readonly drawer: {
    readonly states: {
      readonly locked: unknown
      readonly closed: unknown
      readonly opening: unknown
      readonly open: unknown
      readonly closing: unknown
      readonly empty: unknown
    }
    readonly zones: object
    readonly settings: {
      readonly lock: {
        readonly kind: 'group'
        readonly fields: {
          readonly item: {
            readonly kind: 'item'
          }
          readonly count: {
            readonly kind: 'count'
          }
          readonly 'item-use': {
            readonly kind: 'choice'
            readonly options: readonly ['keep', 'consume']
          }
          readonly needs: {
            readonly kind: 'condition'
          }
          readonly consumes: {
            readonly kind: 'items'
          }
          readonly keyhole: {
            readonly kind: 'interactable'
          }
          readonly signal: {
            readonly kind: 'signal'
          }
          readonly unlocking: {
            readonly kind: 'choice'
            readonly options: readonly ['opens', 'unlocks-only']
          }
        }
      }
      readonly gives: {
        readonly kind: 'items'
      }
      readonly motion: {
        readonly kind: 'group'
        readonly fields: {
          readonly kind: {
            readonly kind: 'choice'
            readonly options: readonly ['slide', 'turn']
          }
          readonly degrees: {
            readonly kind: 'degrees'
          }
          readonly offset: {
            readonly kind: 'shift'
          }
          readonly over: {
            readonly kind: 'seconds'
          }
          readonly speed: {
            readonly kind: 'speed'
          }
          readonly direction: {
            readonly kind: 'choice'
            readonly options: readonly ['as-said', 'shorter', 'left', 'right']
          }
          readonly ease: {
            readonly kind: 'choice'
            readonly options: readonly ['steady', 'soft']
          }
        }
      }
      readonly 'closed-by': {
        readonly kind: 'triggers'
        readonly options: readonly ['press']
      }
    }
  }
  readonly chest: {
    readonly states: {
      readonly locked: unknown
      readonly closed: unknown
      readonly opening: unknown
      readonly open: unknown
      readonly empty: unknown
    }
    readonly zones: object
    readonly settings: {
      readonly lock: {
        readonly kind: 'group'
        readonly fields: {
          readonly item: {
            readonly kind: 'item'
          }
          readonly count: {
            readonly kind: 'count'
          }
          readonly 'item-use': {
            readonly kind: 'choice'
            readonly options: readonly ['keep', 'consume']
          }
          readonly needs: {
            readonly kind: 'condition'
          }
          readonly consumes: {
            readonly kind: 'items'
          }
          readonly keyhole: {
            readonly kind: 'interactable'
          }
          readonly signal: {
            readonly kind: 'signal'
          }
          readonly unlocking: {
            readonly kind: 'choice'
            readonly options: readonly ['opens', 'unlocks-only']
          }
        }
      }
      readonly gives: {
        readonly kind: 'items'
      }
      readonly 'hands-over': {
        readonly kind: 'choice'
        readonly options: readonly ['all-at-once', 'what-fits', 'by-choice']
      }
      readonly 'by-chance': {
        readonly kind: 'yes-no'
      }
      readonly for: {
        readonly kind: 'choice'
        readonly options: readonly ['all', 'each']
      }
      readonly motion: {
        readonly kind: 'group'
        readonly fields: {
          readonly over: {
            readonly kind: 'seconds'
          }
        }
      }
    }
  }
  readonly keyhole: {
    readonly states: {
      readonly empty: unknown
      readonly turned: unknown
    }
    readonly zones: object
    readonly settings: {
      readonly item: {
        readonly kind: 'item'
      }
      readonly count: {
        readonly kind: 'count'
      }
      readonly 'item-use': {
        readonly kind: 'choice'
        readonly options: readonly ['keep', 'consume']
      }
      readonly sends: {
        readonly kind: 'signal'
      }
    }
  }
  readonly pickup: {
    readonly states: {
      readonly available: unknown
      readonly taken: unknown
    }
    readonly zones: {
      readonly near: unknown
    }
    readonly settings: {
      readonly gives: {
        readonly kind: 'item'
      }
      readonly count: {
        readonly kind: 'count'
      }
      readonly 'taken-by': {
        readonly kind: 'triggers'
        readonly options: readonly ['press', 'enter', 'touch']
      }
      readonly for: {
        readonly kind: 'choice'
        readonly options: readonly ['all', 'each']
      }
      readonly 'when-full': {
        readonly kind: 'choice'
        readonly options: readonly ['refuses', 'fills-up']
      }
      readonly sends: {
        readonly kind: 'signal'
      }
      readonly sets: {
        readonly kind: 'flag'
      }
      readonly 'comes-back': {
        readonly kind: 'seconds'
      }
    }
  }
  readonly lever: {
    readonly states: {
      readonly off: unknown
      readonly on: unknown
    }
    readonly zones: object
    readonly settings: {
      readonly sends: {
        readonly kind: 'signal'
      }
      readonly 'sends-back': {
        readonly kind: 'signal'
      }
      readonly sets: {
        readonly kind: 'flag'
      }
      readonly needs: {
        readonly kind: 'condition'
      }
      readonly hold: {
        readonly kind: 'seconds'
      }
      readonly stays: {
        readonly kind: 'yes-no'
      }
      readonly 'falls-back': {
        readonly kind: 'seconds'
      }
    }
  }
  readonly button: {
    readonly states: {
      readonly up: unknown
      readonly in: unknown
    }
    readonly zones: object
    readonly settings: {
      readonly sends: {
        readonly kind: 'signal'
      }
      readonly counts: {
        readonly kind: 'counter'
      }
      readonly needs: {
        readonly kind: 'condition'
      }
      readonly for: {
        readonly kind: 'choice'
        readonly options: readonly ['all', 'each']
      }
      readonly acts: {
        readonly kind: 'choice'
        readonly options: readonly ['on-press', 'on-release']
      }
      readonly every: {
        readonly kind: 'seconds'
      }
    }
  }
  readonly 'pressure-plate': {
    readonly states: {
      readonly up: unknown
      readonly down: unknown
    }
    readonly zones: {
      readonly near: unknown
    }
    readonly settings: {
      readonly sends: {
        readonly kind: 'signal'
      }
      readonly 'sends-back': {
        readonly kind: 'signal'
      }
      readonly stays: {
        readonly kind: 'yes-no'
      }
    }
  }
  readonly 'dial-lock': {
    readonly states: {
      readonly locked: unknown
      readonly turned: unknown
    }
    readonly zones: object
    readonly settings: {
      readonly combination: {
        readonly kind: 'digits'
      }
      readonly wheels: {
        readonly kind: 'count'
      }
      readonly positions: {
        readonly kind: 'count'
      }
      readonly initial: {
        readonly kind: 'digits'
      }
      readonly stays: {
        readonly kind: 'yes-no'
      }
      readonly sends: {
        readonly kind: 'signal'
      }
      readonly 'sends-back': {
        readonly kind: 'signal'
      }
    }
  }
  readonly lamp: {
    readonly states: {
      readonly dark: unknown
      readonly lit: unknown
    }
    readonly zones: {
      readonly near: unknown
    }
    readonly settings: {
      readonly while: {
        readonly kind: 'condition'
      }
      readonly 'lit-by': {
        readonly kind: 'signal'
      }
      readonly 'put-out-by': {
        readonly kind: 'signal'
      }
    }
  }
  readonly exit: {
    readonly states: {
      readonly ready: unknown
    }
    readonly zones: {
      readonly near: unknown
    }
    readonly settings: {
      readonly 'exit-to': {
        readonly kind: 'group'
        readonly fields: {
          readonly place: {
            readonly kind: 'place'
          }
          readonly level: {
            readonly kind: 'level'
          }
          readonly drops: {
            readonly kind: 'item-names'
          }
        }
      }
      readonly 'taken-by': {
        readonly kind: 'triggers'
        readonly options: readonly ['press', 'enter']
      }
      readonly needs: {
        readonly kind: 'condition'
      }
    }
  }
  readonly checkpoint: {
    readonly states: {
      readonly ready: unknown
    }
    readonly zones: {
      readonly near: unknown
    }
    readonly settings: {
      readonly place: {
        readonly kind: 'place'
      }
      readonly needs: {
        readonly kind: 'condition'
      }
    }
  }
  readonly pit: {
    readonly states: {
      readonly ready: unknown
    }
    readonly zones: {
      readonly near: unknown
    }
    readonly settings: {
      readonly 'back-to': {
        readonly kind: 'place'
      }
      readonly loses: {
        readonly kind: 'items'
      }
    }
  }
}
