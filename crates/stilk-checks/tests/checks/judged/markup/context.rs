//! `markup/context`: of a system of two themes; the example of the check is run as well.

use crate::examples::said;
use stilk_checks::registry::find;

#[test]
fn what_chooses_nothing_is_told_with_what_was_meant() {
    let check = find("markup/context").expect("the check");
    assert_eq!(said(check, &check.fails), (vec!["`theme` has no context `ngiht`".to_owned()], 1));
    assert_eq!(said(check, &check.passes), (Vec::new(), 1));
}
