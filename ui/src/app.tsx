import { lazy, Suspense } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import { Book } from './book/book'
import { FieldCard } from './card/card'
import { Hangar } from './hangar/hangar'
import { Line } from './line/line'
import { Rehearsal } from './replay/rehearsal'
import { Shell } from './shell/shell'

const Workshop = lazy(() => import('./dictionaries/workshop').then((m) => ({ default: m.Workshop })))

export function App() {
  return (
    <Routes>
      <Route element={<Shell />}>
        <Route index element={<Navigate to="/hangar" replace />} />
        <Route path="hangar" element={<Hangar />} />
        <Route path="quads/:id" element={<Navigate to="airframe" replace />} />
        <Route path="quads/:id/rehearsal" element={<Rehearsal />} />
        <Route path="quads/:id/card" element={<FieldCard />} />
        <Route path="quads/:id/book" element={<Book />} />
        <Route
          path="quads/:id/dictionary"
          element={
            <Suspense fallback={<main className="plain" aria-busy="true" />}>
              <Workshop />
            </Suspense>
          }
        />
        <Route path="quads/:id/:station" element={<Line />} />
        <Route path="*" element={<Lost />} />
      </Route>
    </Routes>
  )
}

function Lost() {
  return (
    <main className="plain">
      <h1>There is no such place here</h1>
      <p>
        The <a href="/hangar">hangar</a> has your quads.
      </p>
    </main>
  )
}
