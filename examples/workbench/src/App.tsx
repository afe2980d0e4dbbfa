import { useEffect, useState } from 'react'
import { Desk } from './desk/desk.ts'
import { keepDesk, keptDesk } from './desk/keeping.ts'
import { Workbench } from './Workbench.tsx'

/** The page: the desk as it was left, as soon as the browser has brought it back. */
export function App() {
  const [desk, setDesk] = useState<Desk | null>(null)
  const [trouble, setTrouble] = useState<string | null>(null)
  useEffect(() => {
    let end: (() => void) | null = null
    let isWanted = true
    void keptDesk().then((state) => {
      if (!isWanted) return
      const made = new Desk(state)
      end = keepDesk(made, setTrouble)
      setDesk(made)
    })
    return () => {
      isWanted = false
      end?.()
    }
  }, [])
  if (!desk)
    return (
      <p className="loading" role="status">
        Bringing back the desk …
      </p>
    )
  return <Workbench desk={desk} keepingTrouble={trouble} />
}
