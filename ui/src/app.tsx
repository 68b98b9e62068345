import { lazy } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import { Page } from './kit/page'
import { Line } from './places/line/line'
import { Shell } from './shell/shell'

// A place is loaded when it is gone to; the line is where most begin.
const Hangar = lazy(() => import('./places/hangar/hangar').then((m) => ({ default: m.Hangar })))
const Rehearsal = lazy(() => import('./places/rehearsal/rehearsal').then((m) => ({ default: m.Rehearsal })))
const Book = lazy(() => import('./places/book/book').then((m) => ({ default: m.Book })))
const FieldCard = lazy(() => import('./places/card/card').then((m) => ({ default: m.FieldCard })))
const OwnParts = lazy(() => import('./places/parts/own').then((m) => ({ default: m.OwnParts })))
const Packs = lazy(() => import('./places/packs/packs').then((m) => ({ default: m.Packs })))
const Workshop = lazy(() => import('./places/dictionary/workshop').then((m) => ({ default: m.Workshop })))

export function App() {
  return (
    <Routes>
      <Route element={<Shell />}>
        <Route index element={<Navigate to="/hangar" replace />} />
        <Route path="hangar" element={<Hangar />} />
        <Route path="parts" element={<OwnParts />} />
        <Route path="packs" element={<Packs />} />
        <Route path="quads/:id" element={<Navigate to="airframe" replace />} />
        <Route path="quads/:id/rehearsal" element={<Rehearsal />} />
        <Route path="quads/:id/card" element={<FieldCard />} />
        <Route path="quads/:id/book" element={<Book />} />
        <Route path="quads/:id/dictionary" element={<Workshop />} />
        <Route path="quads/:id/:station" element={<Line />} />
        <Route path="*" element={<Lost />} />
      </Route>
    </Routes>
  )
}

function Lost() {
  return (
    <Page>
      <h1>There is no such place here</h1>
      <p>
        The <a href="/hangar">hangar</a> has your quads.
      </p>
    </Page>
  )
}
