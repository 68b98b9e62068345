// What the station of the airframe works out: asked anew whenever the quad has changed, or what is tried on it.
import { useQuery } from '@tanstack/react-query'
import { answerOf, type QuadView, type Schemas, server } from './client'

const at = (quad: QuadView) => ({ params: { path: { id: quad.id } } })

/** The quad taken apart, with its things where they are, or where they are tried. */
export const useApart = (quad: QuadView, placed?: Record<string, Schemas['Thing']>) =>
  useQuery({
    queryKey: ['apart', quad.id, quad.seen, placed],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/airframe/apart', { ...at(quad), body: { placed } })),
    placeholderData: (before) => before,
  })

/** What the drive does over its duty, with every pack. */
export const useCurves = (quad: QuadView) =>
  useQuery({
    queryKey: ['curves', quad.id, quad.seen],
    queryFn: () => answerOf(server.GET('/api/quads/{id}/airframe/curves', at(quad))),
    placeholderData: (before) => before,
  })

/** How far the power lead runs over the pack's voltage, with the capacitor that is on it or one that is tried. */
export const useLead = (quad: QuadView, capacitor?: Schemas['Capacitor']) =>
  useQuery({
    queryKey: ['lead', quad.id, quad.seen, capacitor],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/airframe/lead', { ...at(quad), body: { capacitor } })),
    placeholderData: (before) => before,
    retry: false,
  })

/** The quad as it would be with other parts. */
export const useWhatIf = (quad: QuadView, ask: Schemas['WhatIfAsk']) =>
  useQuery({
    queryKey: ['what if', quad.id, quad.seen, ask],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/airframe/what-if', { ...at(quad), body: ask })),
    enabled: ask.parts.length > 0 || Boolean(ask.cells),
    placeholderData: (before) => before,
    retry: false,
  })

/** Motors, propellers and packs for a wish. */
export const usePartSearch = (quad: QuadView, wish: Schemas['Wish']) =>
  useQuery({
    queryKey: ['parts for', quad.id, quad.seen, wish],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/airframe/search', { ...at(quad), body: wish })),
    placeholderData: (before) => before,
    retry: false,
  })

export const stands = {
  fit: (quad: QuadView, ask: Schemas['StandAsk']) => answerOf(server.POST('/api/quads/{id}/airframe/stand', { ...at(quad), body: ask })),
  keep: (quad: QuadView, ask: Schemas['StandAsk']) =>
    answerOf(server.POST('/api/quads/{id}/airframe/stand/keep', { ...at(quad), body: { ...ask, version: quad.version } })),
  takeHover: (quad: QuadView) => answerOf(server.POST('/api/quads/{id}/airframe/hover/keep', { ...at(quad), body: { version: quad.version } })),
}
