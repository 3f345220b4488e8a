//! What fields hold, and whether they may: `order` is 1 where `:valid` matches and 2 where `:invalid` does, `z-index` the same of
//! `:in-range` and `:out-of-range`, `orphans` is 3 where `:read-only` matches.

use super::Case;

macro_rules! fields {
    ($($html:literal $property:literal => $expected:literal;)*) => {
        &[$((
            concat!($property, " of ", $html),
            "*:valid { order: 1 } *:invalid { order: 2 } *:in-range { z-index: 1 } *:out-of-range { z-index: 2 } \
             *:read-only { orphans: 3 }",
            $html,
            $property,
            $expected,
        )),*]
    };
}

/// Every group with its source.
pub const FIELDS: &[(&str, &[Case])] = &[
    (
        "HTML, section 4.10.20.2 and Selectors 4, section 13.2: validity",
        fields! {
            "<input id=t type=text readonly>" "order" => "0";
            "<input id=t type=text>" "order" => "1";
            "<input id=t type=text min=1 max=5>" "order" => "1";
            "<input id=t type=text value=3>" "order" => "1";
            "<input id=t type=text value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=search readonly>" "order" => "0";
            "<input id=t type=search>" "order" => "1";
            "<input id=t type=search min=1 max=5>" "order" => "1";
            "<input id=t type=search value=3>" "order" => "1";
            "<input id=t type=search value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=url readonly>" "order" => "0";
            "<input id=t type=url>" "order" => "1";
            "<input id=t type=url min=1 max=5>" "order" => "1";
            "<input id=t type=url value=3>" "order" => "2";
            "<input id=t type=url value=3 min=1 max=2>" "order" => "2";
            "<input id=t type=tel readonly>" "order" => "0";
            "<input id=t type=tel>" "order" => "1";
            "<input id=t type=tel min=1 max=5>" "order" => "1";
            "<input id=t type=tel value=3>" "order" => "1";
            "<input id=t type=tel value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=email readonly>" "order" => "0";
            "<input id=t type=email>" "order" => "1";
            "<input id=t type=email min=1 max=5>" "order" => "1";
            "<input id=t type=email value=3>" "order" => "2";
            "<input id=t type=email value=3 min=1 max=2>" "order" => "2";
            "<input id=t type=password readonly>" "order" => "0";
            "<input id=t type=password>" "order" => "1";
            "<input id=t type=password min=1 max=5>" "order" => "1";
            "<input id=t type=password value=3>" "order" => "1";
            "<input id=t type=password value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=number readonly>" "order" => "0";
            "<input id=t type=number>" "order" => "1";
            "<input id=t type=number min=1 max=5>" "order" => "1";
            "<input id=t type=number value=3>" "order" => "1";
            "<input id=t type=number value=3 min=1 max=2>" "order" => "2";
            "<input id=t type=range readonly>" "order" => "0";
            "<input id=t type=range>" "order" => "1";
            "<input id=t type=range min=1 max=5>" "order" => "1";
            "<input id=t type=range value=3>" "order" => "1";
            "<input id=t type=range value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=date readonly>" "order" => "0";
            "<input id=t type=date>" "order" => "1";
            "<input id=t type=date min=1 max=5>" "order" => "1";
            "<input id=t type=date value=3>" "order" => "1";
            "<input id=t type=date value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=month readonly>" "order" => "0";
            "<input id=t type=month>" "order" => "1";
            "<input id=t type=month min=1 max=5>" "order" => "1";
            "<input id=t type=month value=3>" "order" => "1";
            "<input id=t type=month value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=week readonly>" "order" => "0";
            "<input id=t type=week>" "order" => "1";
            "<input id=t type=week min=1 max=5>" "order" => "1";
            "<input id=t type=week value=3>" "order" => "1";
            "<input id=t type=week value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=time readonly>" "order" => "0";
            "<input id=t type=time>" "order" => "1";
            "<input id=t type=time min=1 max=5>" "order" => "1";
            "<input id=t type=time value=3>" "order" => "1";
            "<input id=t type=time value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=datetime-local readonly>" "order" => "0";
            "<input id=t type=datetime-local>" "order" => "1";
            "<input id=t type=datetime-local min=1 max=5>" "order" => "1";
            "<input id=t type=datetime-local value=3>" "order" => "1";
            "<input id=t type=datetime-local value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=checkbox readonly>" "order" => "0";
            "<input id=t type=checkbox>" "order" => "1";
            "<input id=t type=checkbox min=1 max=5>" "order" => "1";
            "<input id=t type=checkbox value=3>" "order" => "1";
            "<input id=t type=checkbox value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=radio readonly>" "order" => "0";
            "<input id=t type=radio>" "order" => "1";
            "<input id=t type=radio min=1 max=5>" "order" => "1";
            "<input id=t type=radio value=3>" "order" => "1";
            "<input id=t type=radio value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=file readonly>" "order" => "0";
            "<input id=t type=file>" "order" => "1";
            "<input id=t type=file min=1 max=5>" "order" => "1";
            "<input id=t type=file value=3>" "order" => "1";
            "<input id=t type=file value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=color readonly>" "order" => "0";
            "<input id=t type=color>" "order" => "1";
            "<input id=t type=color min=1 max=5>" "order" => "1";
            "<input id=t type=color value=3>" "order" => "1";
            "<input id=t type=color value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=submit readonly>" "order" => "0";
            "<input id=t type=submit>" "order" => "1";
            "<input id=t type=submit min=1 max=5>" "order" => "1";
            "<input id=t type=submit value=3>" "order" => "1";
            "<input id=t type=submit value=3 min=1 max=2>" "order" => "1";
            "<input id=t type=image readonly>" "order" => "0";
            "<input id=t type=image>" "order" => "0";
            "<input id=t type=image min=1 max=5>" "order" => "0";
            "<input id=t type=image value=3>" "order" => "0";
            "<input id=t type=image value=3 min=1 max=2>" "order" => "0";
            "<input id=t type=reset readonly>" "order" => "0";
            "<input id=t type=reset>" "order" => "0";
            "<input id=t type=reset min=1 max=5>" "order" => "0";
            "<input id=t type=reset value=3>" "order" => "0";
            "<input id=t type=reset value=3 min=1 max=2>" "order" => "0";
            "<input id=t type=button readonly>" "order" => "0";
            "<input id=t type=button>" "order" => "0";
            "<input id=t type=button min=1 max=5>" "order" => "0";
            "<input id=t type=button value=3>" "order" => "0";
            "<input id=t type=button value=3 min=1 max=2>" "order" => "0";
            "<input id=t type=hidden readonly>" "order" => "0";
            "<input id=t type=hidden>" "order" => "0";
            "<input id=t type=hidden min=1 max=5>" "order" => "0";
            "<input id=t type=hidden value=3>" "order" => "0";
            "<input id=t type=hidden value=3 min=1 max=2>" "order" => "0";
            "<textarea id=t readonly></textarea>" "order" => "0";
            "<select id=t readonly><option>x</select>" "order" => "1";
            "<input id=t type=date value=2026-05-05>" "order" => "1";
            "<input id=t type=date value=2026-05-05 min=2026-05-06>" "order" => "2";
            "<input id=t type=date value=2026-05-05 max=2026-05-06>" "order" => "1";
            "<input id=t type=date value=2026-02-31 max=2026-05-06>" "order" => "1";
            "<input id=t type=month value=2026-05 min=2026-06>" "order" => "2";
            "<input id=t type=week value=2026-W05 min=2026-W06>" "order" => "2";
            "<input id=t type=week value=2026-W05 max=2026-W06>" "order" => "1";
            "<input id=t type=time value=10:00 min=11:00>" "order" => "2";
            "<input id=t type=time value=10:00 min=11:00 max=09:00>" "order" => "2";
            "<input id=t type=time value=10:30:15 max=11:00>" "order" => "1";
            "<input id=t type=datetime-local value=2026-05-05T10:00 max=2026-05-04T10:00>" "order" => "2";
            "<input id=t type=datetime-local value='2026-05-05 10:00' max=2026-05-06T10:00>" "order" => "1";
            "<input id=t type=number value=abc max=3>" "order" => "1";
            "<input id=t type=number value=' 3' max=3>" "order" => "1";
            "<input id=t type=number value=3e0 max=3>" "order" => "1";
            "<input id=t type=number value=3. max=2>" "order" => "1";
            "<input id=t type=number value=3 max=2 disabled>" "order" => "0";
            "<input id=t type=number value=3 min=x>" "order" => "1";
            "<input id=t type=number value=3 step=2>" "order" => "1";
            "<input id=t type=number value=3 min=0 step=2>" "order" => "2";
            "<input id=t type=number required>" "order" => "2";
            "<input id=t type=date required>" "order" => "2";
            "<input id=t type=date required value=2026-05-05>" "order" => "1";
            "<input id=t maxlength=2 value=abc>" "order" => "1";
            "<input id=t minlength=5 value=abc>" "order" => "1";
            "<input id=t type=range value=3 disabled>" "order" => "0";
            "<input id=t type=month required value=x>" "order" => "2";
            "<input id=t type=color required>" "order" => "1";
            "<input id=t type=file required readonly>" "order" => "0";
            "<input id=t type=checkbox required readonly>" "order" => "0";
            "<form><input id=t type=radio required></form>" "order" => "1";
            "<form><input id=t type=radio required name=x><input type=radio name=x></form>" "order" => "2";
            "<form><input type=radio required name=x><input id=t type=radio name=x></form>" "order" => "2";
            "<form><input id=t type=radio required name=y><input type=radio name=y checked></form>" "order" => "1";
            "<form><input id=t type=checkbox required></form>" "order" => "2";
            "<form><input id=t type=checkbox required checked></form>" "order" => "1";
            "<form><select id=t required><option value=''>x<option>y</select></form>" "order" => "2";
            "<form><select id=t required><option value=''>x<option selected>y</select></form>" "order" => "1";
            "<form id=t><input required></form>" "order" => "2";
            "<form id=t><input required value=x></form>" "order" => "1";
            "<fieldset id=t><input type=email value=x></fieldset>" "order" => "2";
            "<fieldset disabled><input id=t required></fieldset>" "order" => "0";
            "<fieldset disabled><legend><input id=t required></legend></fieldset>" "order" => "2";
            "<textarea id=t required></textarea>" "order" => "2";
            "<textarea id=t required>x</textarea>" "order" => "1";
            "<button id=t>x</button>" "order" => "1";
            "<button id=t type=button>x</button>" "order" => "0";
            "<input id=t type=email value='a@b.c'>" "order" => "1";
            "<input id=t type=email value='a@'>" "order" => "2";
            "<input id=t type=url value='https://x.y/'>" "order" => "1";
            "<output id=t>x</output>" "order" => "0";
            "<div id=t>x</div>" "order" => "0";
        },
    ),
    (
        "Selectors 4, section 13.3: ranges",
        fields! {
            "<input id=t type=number readonly>" "z-index" => "auto";
            "<input id=t type=number>" "z-index" => "1";
            "<input id=t type=number min=1 max=5>" "z-index" => "1";
            "<input id=t type=number value=3>" "z-index" => "auto";
            "<input id=t type=number value=3 min=1 max=2>" "z-index" => "2";
            "<input id=t type=range readonly>" "z-index" => "auto";
            "<input id=t type=range>" "z-index" => "1";
            "<input id=t type=range min=1 max=5>" "z-index" => "1";
            "<input id=t type=range value=3>" "z-index" => "1";
            "<input id=t type=range value=3 min=1 max=2>" "z-index" => "1";
            "<input id=t type=date readonly>" "z-index" => "auto";
            "<input id=t type=date>" "z-index" => "1";
            "<input id=t type=date min=1 max=5>" "z-index" => "1";
            "<input id=t type=date value=3>" "z-index" => "1";
            "<input id=t type=date value=3 min=1 max=2>" "z-index" => "1";
            "<input id=t type=month readonly>" "z-index" => "auto";
            "<input id=t type=month>" "z-index" => "1";
            "<input id=t type=month min=1 max=5>" "z-index" => "1";
            "<input id=t type=month value=3>" "z-index" => "1";
            "<input id=t type=month value=3 min=1 max=2>" "z-index" => "1";
            "<input id=t type=week readonly>" "z-index" => "auto";
            "<input id=t type=week>" "z-index" => "1";
            "<input id=t type=week min=1 max=5>" "z-index" => "1";
            "<input id=t type=week value=3>" "z-index" => "1";
            "<input id=t type=week value=3 min=1 max=2>" "z-index" => "1";
            "<input id=t type=time readonly>" "z-index" => "auto";
            "<input id=t type=time>" "z-index" => "1";
            "<input id=t type=time min=1 max=5>" "z-index" => "1";
            "<input id=t type=time value=3>" "z-index" => "1";
            "<input id=t type=time value=3 min=1 max=2>" "z-index" => "1";
            "<input id=t type=datetime-local readonly>" "z-index" => "auto";
            "<input id=t type=datetime-local>" "z-index" => "1";
            "<input id=t type=datetime-local min=1 max=5>" "z-index" => "1";
            "<input id=t type=datetime-local value=3>" "z-index" => "1";
            "<input id=t type=datetime-local value=3 min=1 max=2>" "z-index" => "1";
            "<input id=t type=date value=2026-05-05>" "z-index" => "auto";
            "<input id=t type=date value=2026-05-05 min=2026-05-06>" "z-index" => "2";
            "<input id=t type=date value=2026-05-05 max=2026-05-06>" "z-index" => "1";
            "<input id=t type=date value=2026-02-31 max=2026-05-06>" "z-index" => "1";
            "<input id=t type=month value=2026-05 min=2026-06>" "z-index" => "2";
            "<input id=t type=week value=2026-W05 min=2026-W06>" "z-index" => "2";
            "<input id=t type=week value=2026-W05 max=2026-W06>" "z-index" => "1";
            "<input id=t type=time value=10:00 min=11:00>" "z-index" => "2";
            "<input id=t type=time value=10:00 min=11:00 max=09:00>" "z-index" => "2";
            "<input id=t type=time value=10:30:15 max=11:00>" "z-index" => "1";
            "<input id=t type=datetime-local value=2026-05-05T10:00 max=2026-05-04T10:00>" "z-index" => "2";
            "<input id=t type=datetime-local value='2026-05-05 10:00' max=2026-05-06T10:00>" "z-index" => "1";
            "<input id=t type=number value=abc max=3>" "z-index" => "1";
            "<input id=t type=number value=' 3' max=3>" "z-index" => "1";
            "<input id=t type=number value=3e0 max=3>" "z-index" => "1";
            "<input id=t type=number value=3. max=2>" "z-index" => "1";
            "<input id=t type=number value=3 max=2 disabled>" "z-index" => "auto";
            "<input id=t type=number value=3 min=x>" "z-index" => "auto";
            "<input id=t type=number value=3 step=2>" "z-index" => "auto";
            "<input id=t type=number value=3 min=0 step=2>" "z-index" => "1";
            "<input id=t type=number required>" "z-index" => "1";
            "<input id=t type=date required>" "z-index" => "1";
            "<input id=t type=date required value=2026-05-05>" "z-index" => "auto";
            "<input id=t type=range value=3 disabled>" "z-index" => "auto";
            "<input id=t type=month required value=x>" "z-index" => "1";
        },
    ),
    (
        "HTML, section 4.16.3: what cannot be changed",
        fields! {
            "<input id=t type=text readonly>" "orphans" => "3";
            "<input id=t type=text>" "orphans" => "3";
            "<input id=t type=text min=1 max=5>" "orphans" => "3";
            "<input id=t type=text value=3>" "orphans" => "3";
            "<input id=t type=text value=3 min=1 max=2>" "orphans" => "3";
            "<input id=t type=search readonly>" "orphans" => "3";
            "<input id=t type=search>" "orphans" => "3";
            "<input id=t type=url readonly>" "orphans" => "3";
            "<input id=t type=url>" "orphans" => "3";
            "<input id=t type=tel readonly>" "orphans" => "3";
            "<input id=t type=tel>" "orphans" => "3";
            "<input id=t type=email readonly>" "orphans" => "3";
            "<input id=t type=email>" "orphans" => "3";
            "<input id=t type=password readonly>" "orphans" => "3";
            "<input id=t type=password>" "orphans" => "3";
            "<input id=t type=number readonly>" "orphans" => "3";
            "<input id=t type=number>" "orphans" => "3";
            "<input id=t type=range readonly>" "orphans" => "3";
            "<input id=t type=range>" "orphans" => "3";
            "<input id=t type=date readonly>" "orphans" => "3";
            "<input id=t type=date>" "orphans" => "3";
            "<input id=t type=month readonly>" "orphans" => "3";
            "<input id=t type=month>" "orphans" => "3";
            "<input id=t type=week readonly>" "orphans" => "3";
            "<input id=t type=week>" "orphans" => "3";
            "<input id=t type=time readonly>" "orphans" => "3";
            "<input id=t type=time>" "orphans" => "3";
            "<input id=t type=datetime-local readonly>" "orphans" => "3";
            "<input id=t type=checkbox readonly>" "orphans" => "3";
            "<input id=t type=checkbox>" "orphans" => "3";
            "<input id=t type=radio readonly>" "orphans" => "3";
            "<input id=t type=radio>" "orphans" => "3";
            "<input id=t type=file readonly>" "orphans" => "3";
            "<input id=t type=file>" "orphans" => "3";
            "<input id=t type=color readonly>" "orphans" => "3";
            "<input id=t type=color>" "orphans" => "3";
            "<input id=t type=submit readonly>" "orphans" => "3";
            "<input id=t type=submit>" "orphans" => "3";
            "<input id=t type=image readonly>" "orphans" => "3";
            "<input id=t type=image>" "orphans" => "3";
            "<input id=t type=reset readonly>" "orphans" => "3";
            "<input id=t type=reset>" "orphans" => "3";
            "<input id=t type=button readonly>" "orphans" => "3";
            "<input id=t type=button>" "orphans" => "3";
            "<input id=t type=hidden readonly>" "orphans" => "3";
            "<input id=t type=hidden>" "orphans" => "3";
            "<textarea id=t readonly></textarea>" "orphans" => "3";
            "<select id=t readonly><option>x</select>" "orphans" => "3";
            "<input id=t type=number value=3 max=2 disabled>" "orphans" => "3";
            "<input id=t type=range value=3 disabled>" "orphans" => "3";
            "<input id=t type=file required readonly>" "orphans" => "3";
            "<input id=t type=checkbox required readonly>" "orphans" => "3";
            "<fieldset disabled><input id=t required></fieldset>" "orphans" => "3";
            "<fieldset disabled><legend><input id=t required></legend></fieldset>" "orphans" => "3";
            "<textarea id=t required></textarea>" "orphans" => "3";
            "<textarea id=t required>x</textarea>" "orphans" => "3";
            "<output id=t>x</output>" "orphans" => "3";
            "<div id=t>x</div>" "orphans" => "3";
        },
    ),
];
