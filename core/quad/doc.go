// Package quad holds what is known about one multirotor, as four truths that must not be confused:
//
//   - Meant: what the pilot wants. Sheet, parts, radio plan and limits; a revision snapshots all four.
//   - Board: what the controller said it holds at the last read-back.
//   - Actual: what is really soldered, screwed and calibrated. Only a bench stand-in holds a true one.
//   - Observed: an Actual put together from readings, each field measured, declared or assumed.
//
// Everything in them has one address, a [Path], used alike by findings, edits, comparison, dictionaries,
// rules and the page. Corners are named as seen by a pilot standing behind the quad; turning directions are
// as seen from above.
package quad
