//! Every check that there is. Adding one touches its file and this table.

use crate::check::{Check, Scope};
use crate::checks::{cascade, contrast, font, geometry, markup, page, reset, state, token};
use crate::settings::is_off;
use crate::visit::{PageSink, VisitedPage};
use stilk_language::project::{self, Project};
use stilk_language::system::System;
use stilk_text::source::Files;

/// Every check, by group.
pub static CHECKS: &[&Check] = &[
    &contrast::boundary::CHECK,
    &contrast::focus::CHECK,
    &contrast::indicator::CHECK,
    &contrast::placeholder::CHECK,
    &contrast::text::CHECK,
    &state::color_only::CHECK,
    &state::edge_split::CHECK,
    &state::erased::CHECK,
    &state::hover_only::CHECK,
    &state::indistinct::CHECK,
    &state::leak::CHECK,
    &state::missing::CHECK,
    &state::motion::CHECK,
    &state::nameless::CHECK,
    &state::shift::CHECK,
    &state::slips::CHECK,
    &state::snap::CHECK,
    &state::start::CHECK,
    &state::unseen_motion::CHECK,
    &reset::forced_colors::CHECK,
    &reset::parity::CHECK,
    &reset::shadow_edge::CHECK,
    &reset::unreachable::CHECK,
    &reset::unset::CHECK,
    &geometry::anchored::CHECK,
    &geometry::centered::CHECK,
    &geometry::corner::CHECK,
    &geometry::depth::CHECK,
    &geometry::inline::CHECK,
    &geometry::mirrored::CHECK,
    &geometry::painted::CHECK,
    &geometry::target::CHECK,
    &geometry::travel::CHECK,
    &geometry::variant_size::CHECK,
    &geometry::wrap::CHECK,
    &cascade::dead::CHECK,
    &cascade::masked::CHECK,
    &cascade::name::CHECK,
    &cascade::reach::CHECK,
    &cascade::value::CHECK,
    &font::fallback::CHECK,
    &font::line::CHECK,
    &token::cycle::CHECK,
    &token::deprecated::CHECK,
    &token::literal::CHECK,
    &token::near_twin::CHECK,
    &token::theme_gap::CHECK,
    &token::r#type::CHECK,
    &token::unknown::CHECK,
    &token::unused::CHECK,
    &markup::class::CHECK,
    &markup::context::CHECK,
    &markup::count::CHECK,
    &markup::form::CHECK,
    &markup::group::CHECK,
    &markup::id::CHECK,
    &markup::inside::CHECK,
    &markup::label::CHECK,
    &markup::nesting::CHECK,
    &markup::part::CHECK,
    &markup::role::CHECK,
    &markup::stylesheet::CHECK,
    &markup::r#type::CHECK,
    &page::bypass::CHECK,
    &page::collision::CHECK,
    &page::contrast::CHECK,
    &page::forced_colors::CHECK,
    &page::hover_only::CHECK,
    &page::lasting_focus::CHECK,
    &page::outline::CHECK,
    &page::r#override::CHECK,
    &page::target::CHECK,
    &page::transition::CHECK,
    &page::unreachable::CHECK,
];

/// What is asked of pages, but for what the manifest turns off.
pub(crate) fn page_checks(system: &System) -> impl Iterator<Item = (&'static str, fn(&VisitedPage, &mut PageSink))> {
    CHECKS.iter().filter(|check| !is_off(system, check.id)).filter_map(|check| match check.scope {
        Scope::Page(run) => Some((check.id, run)),
        _ => None,
    })
}

/// All ids.
pub fn ids() -> Vec<&'static str> {
    CHECKS.iter().map(|check| check.id).collect()
}

/// The check with this id.
pub fn find(id: &str) -> Option<&'static Check> {
    CHECKS.iter().copied().find(|check| check.id == id)
}

/// Reads a project whose waivers and levels may name each of these checks.
pub fn load(files: &dyn Files) -> Project {
    project::load(files, &ids())
}
