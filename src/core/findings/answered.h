// SPDX-License-Identifier: GPL-3.0-or-later
// Findings that somebody lives with: accepted by the shop, agreed with the owner, or, where
// lithium is concerned, acknowledged and never silent. An answer holds while its finding is no
// worse than it was that day.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/findings/finding.h"

namespace conductus::findings {

/// Whether a rule guards a lithium cell: such a finding is acknowledged, it always counts.
bool about_lithium(std::string_view id);

/// What tells a finding from others of its rule: the first thing it names.
std::string about(const Finding& finding);

/// The measure of an agreement about a finding: "finding:blade.tip-dim Tidewater".
std::string measure_of(const Finding& finding);

/// Which way its first figure must not go on: what an agreement about it binds.
job::Bound bound_of(const Finding& finding);

/// Answers a finding as it is now, with its figures, in place of an earlier answer; agreed with the
/// owner, it becomes a trade-off of the brief as well. Errors: `why` is empty; a finding about
/// lithium is accepted or agreed, another one acknowledged.
Result<job::Edit> answer(const Finding& finding, job::Answer how, std::string why, std::string on);

/// The finding counts again; the agreement made of it goes.
job::Edit take_back(const Finding& finding);

/// Whether a finding is worse than when it was answered: graver, more that follows from it, or a
/// figure on its bad side by more than half a unit of its third digit, which is what a person
/// reads. A figure with a limit is as bad as it is far from that limit.
bool worse_than(const job::Answered& then, const Finding& now);

/// Takes the findings out that are accepted or agreed and no worse since, and gives them back.
/// Those that came back and those that are acknowledged stay, and say so.
std::vector<Finding> take_answered(std::vector<Finding>& findings,
                                   const std::vector<job::Answered>& answers);

/// Labels of evidence that the judgement knows to be good or bad when they grow, or that are told
/// beside; a rule's evidence is labelled with one of these.
bool known_label(std::string_view label);

} // namespace conductus::findings
