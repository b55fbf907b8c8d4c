// SPDX-License-Identifier: GPL-3.0-or-later
// Named edits: each is a change of one thing, on a copy the caller owns.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/job/edit.h"
#include "core/job/job.h"

namespace conductus::job {

/// Fits another type to the part; measured values belonged to the old one and go. No such part:
/// nothing.
Edit fit_type(std::string ref, std::string type);

/// The same for every cell of the job, as they go together; with an adapter, or an empty id.
Edit fit_cells(std::string type, std::string adapter, const catalogue::Catalogue& parts);
/// The same, each where it would lie, in the job's order.
Edit place_cells(std::string type, std::string adapter, std::vector<Millimetre> at,
                 const catalogue::Catalogue& parts);

/// Fits another type to one strip; the rail that was measured belonged to the old one.
Edit fit_strip_type(std::string ref, std::string type);

/// Fits another type to every strip of the job.
Edit fit_strips(std::string type);

Edit set_look(std::size_t index, Look look);

/// Records what was found on item `index`, and lets its reading override the catalogue's figure of
/// the part it names, unless that part is replaced.
Edit inspect(std::size_t index, Inspected found);

/// Reads "58 mOhm", "4.1 V", or a number in the unit the item has, as its reading; nothing typed:
/// it has none. Refused: a unit that is not known, no number.
Edit take_reading(std::size_t index, std::string typed);

/// Adds an item of one's own to inspect, of the area of item `beside`.
Edit add_inspected(std::string item, std::optional<std::size_t> beside);

/// Adds a picture to an inspected item. Refused: it has as many as there may be.
Edit add_picture(std::size_t index, Picture picture);

/// Sets the kind of job; the inspection follows it.
Edit set_kind(Kind kind);

/// Sets the use; minutes of a usual day come with it while none are set.
Edit set_occasion(Occasion occasion);

/// Agrees an agreement: `value` or `word` is what the plan says on that `day`, which is promised
/// where nothing else was asked for.
Edit agree(std::size_t index, std::optional<double> value, std::string word, std::string day);

/// The same where it was agreed before: what the plan says now is what is promised.
Edit agree_anew(std::size_t index, std::optional<double> value, std::string word, std::string day);

Edit add_agreement(std::string measure, Bound bound);
Edit add_wish(std::string text);
Edit want_blades(std::vector<WantedBlade> blades);
Edit note(std::string day, std::string text);
Edit add_milestone(Milestone milestone);

/// Adds a look; the use is lit with it where it had none.
Edit add_look(Look look);

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
/// Takes a blade out with all that is in it and its wires. No such blade: nothing.
Edit remove_blade(std::string ref);

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

/// Puts other wires in place of all there are.
Edit take_wires(std::vector<Wire> wires);

/// Records the harness as it was built, as it is planned now.
Edit record_built();

/// A wire of the plan is soldered at both ends, or not any more.
Edit set_soldered(std::string wire, bool done);

/// Measures one contact of a connector by itself, in mΩ as it is typed; nothing typed: it is as the
/// catalogue says.
Edit measure_pin(std::string ref, std::string pin, std::string typed);

/// Sets how many pixels the board is told of on a data pad; nothing typed,
/// or 0: the pad is not set.
Edit program_line(std::string pad, std::string typed);

/// Sets how often an effect of a kind comes in a phase of the day; nothing typed, or 0:
/// it does not.
Edit set_rate(std::size_t phase, EffectKind kind, std::string per_minute);

/// What a screw holds, as it is shown and typed: "C1", "blade", or "blade in P2" in a side socket.
std::string held_by(const Fastener& screw);
Edit hold(std::size_t index, std::string typed);

/// What rides on carrier `index`: these parts and no others, as in "B1, K1". Refused: one that is
/// not fitted.
Edit put_on_carrier(std::size_t index, std::string refs);

/// The bore or the outer diameter of a section of the survey: "28.4", or "28.4 > 27" where it
/// tapers from its start to its end.
Edit measure_section(std::size_t index, bool outer, std::string typed);

/// From a blade's foot pad to the first pixel and back, where nothing is measured.
inline constexpr Ohm usual_strip_lead{0.05};

/// Moves the boundary after section `index`, with the next section's start; past that one's end,
/// all that follows keeps its length and moves along.
void move_boundary(Hilt& hilt, std::size_t index, Millimetre to);

/// Adds a section at the emitter end, as long as the last and with its diameters.
void add_section(Hilt& hilt);

/// Takes section `index` out; what lay beyond keeps its length and moves up.
void remove_section(Hilt& hilt, std::size_t index);

} // namespace conductus::job
