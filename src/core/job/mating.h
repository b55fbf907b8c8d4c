// SPDX-License-Identifier: GPL-3.0-or-later
// What stands in each socket of the hilt. A blade, a plug or an owner's own blade names the sockets
// it may go into; in a socket there is one of them at a time, or nothing.
#pragma once

#include <string>
#include <vector>

#include "core/catalogue/catalogue.h"
#include "core/job/edit.h"
#include "core/job/job.h"

namespace conductus::job {

/// A socket is named by the hilt connector or LED at its bottom: every one that a blade names, in
/// the order of the parts.
std::vector<std::string> sockets_of(const Job& job);

/// Refs of the blades and plugs that may go into a socket, in the order of the job.
std::vector<std::string> mates_of(const Job& job, const std::string& socket);

/// What stands in every socket: as `job.mated` says, else the first blade whose own socket it is
/// and that is not elsewhere; an empty blade: nothing.
std::vector<Mated> mated_set(const Job& job);

/// "BL1 in P1, nothing in P2"; empty where the job has no socket.
std::string set_text(const std::vector<Mated>& set);

/// The same of those sockets alone in which it is another than in `now`; all where none is.
std::string set_text(const std::vector<Mated>& set, const std::vector<Mated>& now);

/// Whether there is any choice of what stands in a socket.
bool has_choice(const Job& job);

/// The job as it is with that set: what is in no socket is left out with its wires, and what is
/// mated in another socket than its own stands as that socket does. Blades that are wired to their
/// pads stay. Without a socket: the job as it is.
Job as_mated(const Job& job, const std::vector<Mated>& set);

/// The same with what stands in its sockets now.
inline Job as_it_stands(const Job& job) { return as_mated(job, mated_set(job)); }

/// Every set that may be mated, at most `most` of them: each socket with each of its mates or
/// nothing, a blade in one socket at a time. The set of today comes first.
std::vector<std::vector<Mated>> all_sets(const Job& job, std::size_t most);

/// Takes out of the sets what they name and is not there any more, or does not go in any more.
void forget_lost_mates(Job& job);

/// Another blade like the last that goes into a socket, laid aside, for the same sockets; a bare
/// one where there is none yet. Its strips come along under names of their own.
Edit add_mate();

/// Cuts the strips of blade `index` to so many pixels each, as in "117 + 117", at their density; a
/// blade without strips gets them as the first blade with some has; "plain" takes them all out.
/// Refused: no count; a blade that is wired without a connector to be plain; no strip to go by.
Edit give_pixels(std::size_t index, std::string typed, const catalogue::Catalogue& parts);

/// The sockets beside its own that blade `index` may go into, as in "P2, P3"; nothing typed: none.
/// Refused: one that is no part of the job.
Edit also_into(std::size_t index, std::string typed);

/// Puts a blade or plug into a socket, out of wherever it is; empty: takes out what is in it.
/// Refused: there is no such socket, or it does not go in there.
Edit mate(std::string socket, std::string blade);

} // namespace conductus::job
