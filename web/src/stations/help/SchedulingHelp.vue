<script setup lang="ts">
/** How meetings are scheduled, sent, brought in and given out. */
defineProps<{ topic: string }>()
const calendar = `BEGIN:VEVENT
UID:m-0001@upright-warden
DTSTART;TZID=Europe/Dublin:20270111T090000
DURATION:PT1H
RRULE:FREQ=WEEKLY;BYDAY=TU,TH;UNTIL=20270630T220000Z
SUMMARY:Berth plan
ORGANIZER:mailto:n.fitzgibbon@saltmarsh.example
ATTENDEE;ROLE=REQ-PARTICIPANT:mailto:g.pryce@saltmarsh.example
ATTENDEE;CUTYPE=GROUP;CN=Night crew:mailto:night-crew@saltmarsh.example
ATTENDEE;CUTYPE=ROOM;CN=Chart room:mailto:chart-room@saltmarsh.example
X-WARDEN-CONTROL;NAME=waiting-room:on
X-WARDEN-CONTROL;NAME=dial-in-countries:GB,IE
END:VEVENT`
const table = `id,title,host,required,start,zone,minutes,waiting-room,early-entry
m-0001,Berth plan,n.fitzgibbon@saltmarsh.example,g.pryce@saltmarsh.example,2027-01-11T09:00,Europe/Dublin,60,on,0`
</script>

<template>
  <template v-if="topic === 'scheduling'">
    <h1>Scheduling</h1>
    <p>
      One page holds everything: what, when, who, everybody’s time, number and passcode, all
      controls, reminder and groups. A new meeting begins with the defaults that the rulebook has
      for its host and kind. The margin answers each change: what the rule says and why, what each
      value of the control in hand would do, what changes at the door, which control does nothing
      and what would make it matter, and the findings that saving would cause.
    </p>
    <h2>How far one may go</h2>
    <p>
      A host cannot save what goes beyond a limit or touches a fix; once the meeting is saved within
      the limits, a waiver can be asked for there, with a reason, and every warden is written to. A
      warden may, with a reason, which the history keeps. What stood beyond a limit before is left
      to the audit: one can mend a title without mending all.
    </p>
    <h2>Dates</h2>
    <p>
      Daily, on weekdays, monthly by date or as “the second Tuesday”, yearly, every so many, until a
      day or for a number of times; beyond that, a recurrence rule (RFC 5545). Each coming date can
      be moved, lengthened or dropped, and dates added. A time that a clock change skips moves on by
      the gap; of a time that comes twice, the first is meant.
    </p>
    <p>
      A date of a series can have controls of its own: <em>controls…</em> beside it while
      scheduling, <em>this date alone…</em> on the meeting’s page. What is not named there is as the
      series has it.
    </p>
    <h2>Tasks and groups</h2>
    <p>
      Whoever is invited by name can be a <em>contributor</em>, heard where the others only watch,
      an <em>interpreter</em>, heard too, or a <em>captioner</em>. Their invitation says so.
      <em>A group for each list</em> makes a breakout group of each invited list, with whoever is on
      it at the time.
    </p>
    <h2>Who asks to take part</h2>
    <p>
      Where people register by a conference service’s form, the meeting’s page lists them. Approve
      or decline some, or approve all who wait; the service is told, and who is approved is invited
      there by name.
    </p>
    <h2>Everybody’s time</h2>
    <p>
      Full bars are those who must come, half bars those who may; rooms have a strip too. Openings
      are within working hours on everybody’s own clock, begin on the quarter hour, and are free for
      all who must come; best is the one that most of those who may come can make, then the
      earliest. Who declined a meeting is free then. Hosts see when others are busy, not with what.
    </p>
    <h2>Number and passcode</h2>
    <p>
      A fresh number for each meeting, or, where the control <em>Meeting number</em> is reusable,
      one of the host’s own. A passcode is made that is strong and can be said, as long as the
      rulebook asks; your own is judged as you type. Where phones are allowed and the passcode has
      letters, callers get eight digits of their own, which change with it. Passcodes are stored
      sealed and never kept in the browser.
    </p>
    <h2>Invitations</h2>
    <p>
      <em>Read and send</em> shows the message as each invitee gets it: text, an HTML and a calendar
      part, with the passcode in or out as the control says. Everybody named, every co-host and
      presenter, and those whom a list or the space reaches get one. A changed time raises its
      sequence; whoever is no longer invited is told. Answers that come by mail are fed in on the
      meeting’s page; an answer by somebody who was not invited says that the invitation was passed
      on.
    </p>
    <p>
      Until a mail service is configured (<span class="value">WARDEN_MAIL_HOST</span>), messages are
      kept and go no further. Where it is away, a message is tried again, ten times over some hours.
    </p>
    <h2>Undoing</h2>
    <p>
      A meeting’s page has who changed what, and puts any earlier version back; cancelled meetings
      are under <RouterLink class="link" to="/register/cancelled">Cancelled meetings</RouterLink>.
      What you typed and did not save is kept in this browser, without the passcode.
    </p>
    <h2>Keys</h2>
    <p>
      In the register: <kbd>n</kbd> schedules, <kbd>j</kbd> <kbd>k</kbd> move, <kbd>x</kbd> chooses
      for an act on several, <kbd>w</kbd> turns to the week. On the page: <kbd>Ctrl</kbd>
      <kbd>S</kbd> saves, <kbd>Ctrl</kbd> <kbd>Enter</kbd> reads the invitation.
    </p>
  </template>
  <template v-else>
    <h1>Files in and out</h1>
    <p>
      Which format a file is, its first lines say. Each is tried first and told row by row; what is
      refused does not keep the rest out (a bundle comes in whole or not at all). Every import can
      be taken back as a whole: what it added goes, what it changed is as before. What was changed
      since is left, after asking. Files are UTF-8 and at most 32 MiB; archives are not unpacked.
    </p>
    <h2>Calendars (iCalendar)</h2>
    <p>
      RFC 5545, 5546 and 7986. Read are events with RRULE, RDATE, EXDATE and exceptions; the
      organiser hosts, a GROUP is a list, a ROOM a room, CLASS:PUBLIC a public listing. A calendar
      says nothing of most controls: they stay not evidenced. Passcodes and links that hold them are
      recognised in descriptions, in HTML too, and where it is doubtful none is: that is said. Lines
      that mean nothing here are kept and given out again. Zones are found by their IANA name, their
      Windows name (Unicode CLDR), the name’s end, or by what the calendar says of their clock;
      where name and clock disagree, that is said. What is missing is assumed, and said: the zone of
      your browser, you as the host, 30 minutes.
    </p>
    <p>
      What a calendar is for (METHOD) decides what it may change: a REQUEST or none of it a whole
      meeting, or the one date it names; ADD adds a date; CANCEL drops what it names, if it comes
      from the organiser; an answer, a proposal and a question change nothing. Of two the one with
      the higher SEQUENCE is newer, then the one with the later DTSTAMP; what is older is refused,
      and our own invitation is known as ours. A date of a series that differs in people, title,
      place, link or passcode becomes a meeting of its own.
    </p>
    <p>
      Refused: an event without a start, with a rule that does not parse or recurs more than 20,000
      times in 1,200 days, or with two rules.
    </p>
    <pre class="value">{{ calendar }}</pre>
    <p>
      Given out, our own lines follow, so that a round trip loses nothing:
      <span class="value">X-WARDEN-CONTROL;NAME=…</span> with a value each (a set’s names apart by
      commas, <span class="value">all</span> for all), <span class="value">X-WARDEN-ID</span>,
      <span class="value">-KIND</span>, <span class="value">-SPACE</span>,
      <span class="value">-NUMBER</span>, <span class="value">-CO-HOST</span>,
      <span class="value">-PRESENTER</span>, <span class="value">-GROUP;NAME=…</span> and, where
      asked for, <span class="value">-PASSCODE</span>. A zone is described change by change for 20
      years.
    </p>
    <h2>Tables (CSV)</h2>
    <p>
      RFC 4180; a header row, commas or semicolons. Meetings need
      <span class="value">title</span> and <span class="value">start</span> (<span class="value"
        >2027-05-10 09:00</span
      >) and no more; a control is a column, by its id or its name; several addresses or times in a
      cell are apart by spaces or commas; the headings of the register (<em>Recurs</em>,
      <em>Invited</em>) are known. A column that is not there changes nothing.
      <em>Import and export</em> lists the columns and has templates. People have
      <span class="value">email</span>, <span class="value">name</span>, and may have standing,
      unit, active, zone: an empty cell changes nothing, a dash takes the unit away. Lists and
      spaces have <span class="value">sort</span> (list or space), <span class="value">id</span>,
      <span class="value">name</span>, <span class="value">members</span>. Cells that a spreadsheet
      would compute are written with <span class="value">'</span> before them, and read without.
    </p>
    <pre class="value">{{ table }}</pre>
    <h2>Directories (SCIM, LDIF)</h2>
    <p>
      SCIM 2.0 in JSON (RFC 7643): a User, a Group, an array of them, or a list response. LDIF (RFC
      2849): entries with <span class="value">mail</span> are people, groups are lists; of changes,
      additions only. Who has no standing in the file is a member where the address is in one of our
      domains, else a guest. People are found by their address, units by id or name. What a file
      does not say stays as it is: who has left stays so. Groups in groups are their members.
    </p>
    <h2>Feeds</h2>
    <p>
      <em>Subscribe</em> makes an address for calendar programs, for your own meetings or a part of
      the register. It holds when and what, and no passcode, number, link, agenda or address.
      Whoever has the address can read it; it is told once and can be ended.
    </p>
  </template>
</template>
