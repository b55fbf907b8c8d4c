// SPDX-License-Identifier: GPL-3.0-or-later
// What is kept beside a job document and named in it by the hash of its bytes.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/job/job.h"

namespace conductus::files {

/// A picture ("image/png", "image/jpeg"), the document of a milestone ("job"), or the definition of
/// one of the shop's own parts ("part").
struct Attachment {
    std::string type;
    std::string bytes;
    bool operator==(const Attachment&) const = default;
};
using Attachments = std::map<std::string, Attachment>; ///< by content_id

/// 128 bits of XXH3 as 32 hexadecimal digits.
std::string content_id(std::string_view bytes);
/// Whether the text is such an id, of whatever bytes.
bool is_content_id(std::string_view text);

/// "image/png" or "image/jpeg" by the first bytes; nothing for anything else.
std::optional<std::string> picture_type(std::string_view bytes);

std::string to_base64(std::string_view bytes);
/// Nothing where it is not base64.
std::optional<std::string> from_base64(std::string_view text);

/// Ids of the pictures a job shows, and of the documents its milestones keep.
std::vector<std::string> pictures_of(const job::Job& job);
std::vector<std::string> kept_of(const job::Job& job);

} // namespace conductus::files
