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
    carries the act that ends it (<em>t</em> does the first one’s). Or say it is seen, hand it on,
    or close it with a note.
  </p>
  <h2>Afterwards</h2>
  <p>
    Attendance as a table, CSV and workbook; who gets the recording, the chat log and the
    attendance; incidents, kept with the whole timeline; and for each alert what would have
    prevented it. <em>Draft the rule</em> begins a draft of the rulebook in which the control goes
    no looser than that.
  </p>
  <h2>Practising</h2>
  <p>
    A practice session is played by a stand-in for the conference service, with the meeting’s own
    settings: with those who are expected alone, with strangers, or with forty of them at once. Its
    clock can run faster than yours.
  </p>
</template>
