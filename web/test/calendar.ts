import { readFileSync } from 'node:fs'
import ICAL from 'ical.js'

/** A calendar as another program reads it. */
const text = JSON.parse(readFileSync(0, 'utf8')) as string
const calendar = new ICAL.Component(ICAL.parse(text))
const events = calendar.getAllSubcomponents('vevent').map((part) => {
  const event = new ICAL.Event(part)
  const all = part.getAllProperties().map((p) => p.name)
  return {
    uid: event.uid,
    summary: event.summary,
    description: event.description,
    from: event.startDate.toString(),
    to: event.endDate.toString(),
    allDay: event.startDate.isDate,
    sequence: event.sequence,
    stamp: part.getFirstPropertyValue('dtstamp')?.toString(),
    once: new Set(all).size === all.length,
  }
})
const prodid = calendar.getFirstPropertyValue('prodid')
const version = calendar.getFirstPropertyValue('version')
process.stdout.write(JSON.stringify({ prodid, version, events }))
