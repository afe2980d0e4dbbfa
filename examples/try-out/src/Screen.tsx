import type { View } from 'zintel'
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
      {view.ways.map(({ way, interactable }) => (
        <button
          key={way}
          onClick={() => {
            play.press(who, way)
          }}
        >
          {way} {interactable}
        </button>
      ))}
      {view.dials.map((dial) => (
        <Dial key={dial.interactable} game={game} dial={dial} />
      ))}
    </div>
  )
}

/** The wheels of a dial, each to be turned up or down. */
function Dial({ game, dial: { interactable, wheels } }: { game: Game; dial: View['dials'][number] }) {
  const { play, who } = game
  return (
    <div className="dial" data-testid="dial" role="group" aria-label={interactable}>
      {wheels.map(({ at, positions }, i) => {
        const turn = (by: number): void => {
          play.dial(who, interactable, i + 1, (at + by + positions) % positions)
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
            <output>{at}</output>
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
