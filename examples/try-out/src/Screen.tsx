import type { Game } from './game.ts'

/** What lies over the plan: the popup, and the icons that are kept on the screen. */
export function Overlay({ game }: { game: Game }) {
  const { play, who } = game
  const view = play.view(who)
  return (
    <>
      <ul className="icons" data-testid="icons" aria-label="On the screen">
        {view.icons.map(({ icon, count }) => (
          <li key={icon} className="icon">
            <i aria-hidden="true">{icon.slice(0, 1)}</i> {icon}
            {count !== null && <b> {count}</b>}
          </li>
        ))}
      </ul>
      {view.popup !== null && (
        <div className="popup" role="alertdialog" aria-label="Popup" data-testid="popup">
          <p>{view.popup}</p>
          <button
            autoFocus
            onClick={() => {
              play.dismiss(who)
            }}
          >
            Understood
          </button>
        </div>
      )}
    </>
  )
}

/** What can be done from here: the prompt, its options, other kinds of press, and dials within reach. */
export function Doing({ game }: { game: Game }) {
  const { play, who } = game
  const view = play.view(who)
  const { pressKinds, interactables } = play.stage.expanded
  const others = pressKinds.flatMap(({ press, option }, pressKind) => {
    const [first] = option === null && pressKind > 0 ? play.candidates(who, pressKind) : []
    return first === undefined ? [] : [{ press, pressKind, name: interactables[first]?.name ?? '' }]
  })
  const dials = play.within(who).filter((index) => play.canDial(who, index))
  return (
    <div className="doing">
      <div className="prompt" data-testid="prompt">
        {view.prompts.map(({ text }) => (
          <span key={text}>
            <kbd>space</kbd> {text}
          </span>
        ))}
        {view.prompts.length === 0 && view.candidates.length > 0 && (
          <span>
            <kbd>space</kbd> {view.candidates[0]}
          </span>
        )}
      </div>
      {view.options.length > 0 && (
        <div className="options" data-testid="options" role="group" aria-label="Options">
          {view.options.map((option, i) => (
            <button
              key={option}
              onClick={() => {
                play.choose(who, option)
              }}
            >
              <kbd>{i + 1}</kbd> {option}
            </button>
          ))}
        </div>
      )}
      {others.map(({ press, pressKind, name }) => (
        <button
          key={press}
          onClick={() => {
            play.press(who, pressKind)
          }}
        >
          {press} {name}
        </button>
      ))}
      {dials.map((index) => (
        <Dial key={index} game={game} index={index} />
      ))}
    </div>
  )
}

/** The wheels of a dial, each to be turned up or down. */
function Dial({ game, index }: { game: Game; index: number }) {
  const { play, who } = game
  const { wheels, interactables } = play.stage.expanded
  const placed = interactables[index]
  return (
    <div className="dial" data-testid="dial" role="group" aria-label={placed?.name}>
      {play.wheelsOf(index).map((digit, i) => {
        const { positions } = wheels[placed?.wheels[i] ?? -1] ?? { positions: 10 }
        const turn = (by: number): void => {
          play.dial(who, index, i + 1, (digit + by + positions) % positions)
        }
        return (
          <span key={i}>
            <button
              aria-label={`wheel ${String(i + 1)} up`}
              onClick={() => {
                turn(1)
              }}
            >
              ▲
            </button>
            <output>{digit}</output>
            <button
              aria-label={`wheel ${String(i + 1)} down`}
              onClick={() => {
                turn(-1)
              }}
            >
              ▼
            </button>
          </span>
        )
      })}
    </div>
  )
}
