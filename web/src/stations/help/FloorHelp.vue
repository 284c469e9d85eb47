<template>
  <h1>Running a session</h1>
  <p>
    The floor shows the sessions in progress. In one of them, whoever waits at the door stands left,
    who is inside in the middle, who left, was refused or put out to the right. Whoever was not
    invited is named in rust, with the way they came.
  </p>
  <h2>Acting</h2>
  <p>
    Choose one or several with the space bar or the box, or just go to somebody with <em>j</em> and
    <em>k</em>; <em>h</em> and <em>l</em> change columns. <em>a</em> lets in, <em>x</em> turns away
    or removes, <em>b</em> removes and bars the way back, <em>m</em> silences. What you do shows at
    once and pale until the conference service has done it. Where it refuses, the page goes back to
    what is and says why. Where it does not answer, the order waits and is sent again; it is done
    once however often it is sent.
  </p>
  <h2>Alerts</h2>
  <p>
    The guard reads along: a stranger in before the host, a guarantee broken, a share or a recording
    by somebody who should not, a second recording that ends the first, somebody removed who is
    back, a setting loosened beyond the rule, a session past its time with the door open. Each alert
    carries the act that ends it (<em>t</em> does the first one’s). Alerts with one cause stand
    together with their number, and end by themselves when the cause does: somebody is out, a share
    is stopped, a setting is back. Or acknowledge them, pass them on, or close them with a note;
    nobody closes an alert about what they did themselves. What stands open anywhere is on every
    page, and reaches whoever is on call (<em>House → Alerts</em>).
  </p>
  <h2>Limits</h2>
  <p>
    A setting looser than a rule allows is refused with the rule’s reason, whoever asks. A warden
    can allow it for this session, with a reason; the ledger has it. What is loosened in the
    conference service itself is set back where the rule is sealed, and an alert elsewhere; House →
    Alerts says what is set back.
  </p>
  <h2>A meeting that is changed meanwhile</h2>
  <p>
    A change of a meeting’s controls reaches its session at once; before it, the page says which of
    the meetings are in session. What was set in the session itself stays until the meeting’s own
    value is changed. Where the session is looser than its meeting, its page says so.
  </p>
  <h2>Locking down</h2>
  <p>
    <em>Lock down…</em> locks any number of sessions by one act: doors locked, waiting rooms on,
    shares stopped. <em>Undo it</em> puts doors and waiting rooms back as they were.
  </p>
  <h2>When a session opens</h2>
  <p>
    As its early entry says, an hour before at most, with the controls of its own date. Its host may
    <em>Start now</em> from twelve hours before, on the meeting’s page or in their corner, and is
    written to a quarter of an hour before with the link.
  </p>
  <h2>Afterwards</h2>
  <p>
    Attendance as a table, CSV and workbook, with those who were asked and not there; each
    recording, with who made it, who ended it and who agreed to it; how long all this is kept, and
    <em>Hold it for a legal reason</em>, which keeps it until it is released; who gets the
    recording, the chat log and the attendance; incidents, kept with the whole timeline; and for
    each alert what would have prevented it. <em>Draft the rule</em> begins a draft of the rulebook
    in which the control goes no looser than that.
  </p>
  <h2>Practising</h2>
  <p>
    A practice session is played by a stand-in for the conference service, with the meeting’s own
    settings: with those who are expected alone, with strangers, or with forty of them at once. Its
    clock can run faster than yours.
  </p>
</template>
