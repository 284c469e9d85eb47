<template>
  <h1>The house</h1>
  <h2>Accounts</h2>
  <p>
    <em>Invite somebody</em> makes a link for you to hand over, by a way you trust. It sets their
    password once, within three days, and is not shown again. A forgotten password is mended the
    same way. A changed role signs them out everywhere and ends the access tokens that act as them;
    somebody who may no longer sign in is let go, and their name stays where they acted.
  </p>
  <p>
    <em>Deputies</em>: a host can stand in for a unit’s warden for a time. They may what that warden
    may, from their next request on until the time ends; they name no deputy themselves. A page that
    is open says so within a minute.
  </p>
  <h2>Second factor</h2>
  <p>
    Besides the password, a code from a device. It can be demanded of nobody, of wardens or of
    everybody; whoever has none yet gets no further than setting it up, under their own name at the
    top. With it come ten recovery codes, each good once. Who has neither device nor codes left is
    helped by a warden, who takes the second factor away. Turning it off needs your password and a
    code, and ends your other sessions.
  </p>
  <h2>Access tokens</h2>
  <p>
    For programs: with a purpose, a role and an end. One is shown once; the list has when it was
    last used. A token cannot change what signs its owner in.
  </p>
  <h2>Directory</h2>
  <p>
    A directory that speaks SCIM 2.0 keeps people and lists up to date. It needs the address that
    the page shows, and a token that can do nothing else. Who is deactivated or deleted there has
    left here, and the meetings they host are looked at first. Groups in groups reach everybody in
    them once; groups that hold each other are named.
  </p>
  <h2>Calendars</h2>
  <p>
    Meetings that are kept in a calendar are read from there: an address that gives an iCalendar
    file, or a CalDAV server with an account. <em>Try it</em> says what is at the address. What
    changes there changes here, what goes there is cancelled here, and nothing is written there. A
    calendar can also be read only for when somebody has no time. Where most of one is gone at once
    you are asked before anything is cancelled.
  </p>
  <h2>Alerts</h2>
  <p>
    Whom alerts of sessions reach: the first on call by mail, then the next where nobody
    acknowledges within the minutes you set; in quiet hours the gravest alone. A webhook gets signed
    events in the JSON format of CloudEvents 1.0; what signs them is shown once, when its address is
    saved. <em>Send a test</em> goes every way there is.
  </p>
  <p>
    Below, a log collector can be named that takes the ledger, entry after entry. While it is away
    the entries wait, and the page says how many and why.
  </p>
  <h2>Retention</h2>
  <p>
    For each sort of thing, after how many days it goes. What is older goes each hour and does not
    come back. The baseline, the standing audit and the last one stay. The ledger is kept for ever
    unless you set days for it: then it is cut at its beginning by an entry of its own, and what is
    left still verifies.
  </p>
  <h2>The service</h2>
  <p>
    Which servers run on this database and since when, what waits to be done, how large it has
    grown, how far this server’s clock is from the database’s, and which key seals passcodes. A new
    key seals everything anew, some rows at a time, while people go on working; the old one is
    dropped when nothing is sealed with it any more.
  </p>
  <h2>Work in trouble</h2>
  <p>
    Mail, reports, audits and letters are done in the background, one by one. What goes wrong is
    tried again after longer and longer pauses, and is listed under <em>The service</em> with the
    reason. After the last try it has failed: mend the cause, then choose <em>Try again</em>, or
    <em>Give up</em> where it is wanted no more. Work that is done again and again, such as letting
    waivers end, is listed while it goes wrong and never given up.
  </p>
</template>
