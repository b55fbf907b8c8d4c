// SPDX-License-Identifier: GPL-3.0-or-later
// Named edits: each is a change of one thing, on a copy the caller owns.
#pragma once

#include <functional>
#include <optional>
#include <string>

#include "core/catalogue/catalogue.h"
#include "core/job/job.h"

namespace conductus::job {

using Edit = std::function<void(Job&)>;

/// Fits another type to the part; measured values belonged to the old one and go. No such part:
/// nothing.
Edit fit_type(std::string ref, std::string type);

/// The same for every cell of the job, as they go together; with an adapter, or an empty id.
Edit fit_cells(std::string type, std::string adapter, const catalogue::Catalogue& parts);
/// The same, each where it would lie, in the job's order.
Edit place_cells(std::string type, std::string adapter, std::vector<Millimetre> at,
                 const catalogue::Catalogue& parts);

/// Fits another type to every strip of the job.
Edit fit_strips(std::string type);

Edit set_look(std::size_t index, Look look);

/// Records what was found on item `index`, and lets its reading override the catalogue's figure of
/// the part it names, unless that part is replaced.
Edit inspect(std::size_t index, Inspected found);

/// Sets the kind of job; the inspection follows it.
Edit set_kind(Kind kind);

/// Sets the use; minutes of a usual day come with it while none are set.
Edit set_occasion(Occasion occasion);

/// Agrees an agreement: `value` or `word` is what the plan says on that `day`, which is promised
/// where nothing else was asked for.
Edit agree(std::size_t index, std::optional<double> value, std::string word, std::string day);

/// A job nothing is known of yet, with the checklist of its kind.
Job blank(std::string name, Kind kind);

/// Another job built like this one: what was found, noted, promised and agreed stays with the old.
Job built_like(const Job& job, std::string name, Kind kind);

/// The job as it was, with the past it has now: name, milestones and log stay.
Edit go_back_to(Job then);

/// Cuts a strip: as many pixels as its length takes at its type's density.
Edit cut_strip(std::string ref, Millimetre length, int pixels);

/// Another strip like that one in the same blade: it hears the same data and so mirrors it.
Edit add_strip(std::string like);

/// Takes a strip out, and the blade with its wires where it was the last light in it.
Edit remove_strip(std::string ref);

/// How an accent or another blade hears its data.
enum class Mount { own_line, ahead, mirrored };

/// A pixel accent before the connector, supplied by the board: on the first free data pad; ahead of
/// the first blade in its chain; or soldered to its line. Nothing without a board.
Edit add_accent(std::string type, Mount mount, const catalogue::Catalogue& parts);

/// A blade like the one `like` is or is in, wired to the same pads without a connector; its data
/// from the first free pad with Mount::own_line, else from where that one's comes.
Edit add_blade(std::string like, Mount mount, const catalogue::Catalogue& parts);

/// Takes a part out with its wires; what it passed data on to hears what it heard.
Edit remove_part(std::string ref);

/// Sets the value chosen for a resistor.
Edit choose_resistor(std::string ref, Ohm ohms);

/// The job built as its variant `index`; what it was becomes a variant in that one's place.
Job with_variant(const Job& job, std::size_t index);

/// Keeps the build as it stands as a variant of that name, to go on from it under another name.
/// `now` names what goes on.
Edit keep_variant(std::string name, std::string now);

/// Builds as variant `index`; what was built changes places with it.
Edit take_variant(std::size_t index);

/// Fits what a plain single-blade job has, wired the usual way, where nothing is fitted yet: cell,
/// kill, board, speaker, button, connector, blade, looks, and a survey to correct.
void fit_usual_parts(Job& job);

/// Moves the boundary after section `index`, with the next section's start; past that one's end,
/// all that follows keeps its length and moves along.
void move_boundary(Hilt& hilt, std::size_t index, Millimetre to);

/// Adds a section at the emitter end, as long as the last and with its diameters.
void add_section(Hilt& hilt);

/// Takes section `index` out; what lay beyond keeps its length and moves up.
void remove_section(Hilt& hilt, std::size_t index);

} // namespace conductus::job
