// SPDX-License-Identifier: GPL-3.0-or-later
// What a part of each kind begins with, and what belongs to its words: a shape, a method.
#pragma once

#include "core/catalogue/part_type.h"

namespace conductus::job {

/// A part of a kind with the usual values of everything: what a form takes where nothing is typed.
/// `kind`: index in catalogue::kinds().
catalogue::PartType usual_type(std::size_t kind);
/// A die that can be.
catalogue::Die usual_die();

/// Gives the fields that a word brought their usual values; lengths that are none are as the
/// others.
void complete(catalogue::PartType& type);
/// Takes away what has no field, for a file could not say it.
void tidy(catalogue::PartType& type);

} // namespace conductus::job
