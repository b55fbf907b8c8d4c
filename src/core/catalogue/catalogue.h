// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/problem.h"
#include "core/catalogue/part_type.h"

namespace conductus::catalogue {

/// All part types by id. A value; filled by files::read_catalogue.
class Catalogue {
public:
    /// Error: the id is there already, or it names a pixel class that is not (yet) there.
    Result<void> add(PartType type);

    /// Adds a part of the shop's own. `written` is its definition as JSON, word for word: it
    /// travels with the jobs that use the part.
    Result<void> add_own(PartType type, std::string written);
    /// The same where a part of that id may be there: one of the shop's own is replaced.
    Result<void> set_own(PartType type, std::string written);
    /// An own part has been changed since it was planned with here: what it is now, and what names
    /// that definition.
    struct Newer {
        PartType type;
        std::string definition;
    };
    void set_newer(PartType type, std::string definition);
    /// It is decided: the part is what it is now, or stays what it was. Either way nothing newer is
    /// known of it.
    void decide_newer(std::string_view id, bool take);
    /// Null where it has not.
    [[nodiscard]] const Newer* newer(std::string_view id) const;
    /// That definition; null for a part that ships with the program, or an unknown one.
    [[nodiscard]] const std::string* written(std::string_view id) const;

    /// Null where the id is unknown.
    [[nodiscard]] const PartType* find(std::string_view id) const;

    /// The figures of `id` where it is of kind T, else null.
    template <class T>
    [[nodiscard]] const T* find_as(std::string_view id) const {
        const PartType* type = find(id);
        return type ? std::get_if<T>(&type->figures) : nullptr;
    }

    /// All types of kind T in the order they were added (small to large in the shipped data).
    template <class T>
    [[nodiscard]] std::vector<const PartType*> all() const {
        std::vector<const PartType*> found;
        for (const auto& id : order_)
            if (const PartType* type = find(id); std::holds_alternative<T>(type->figures))
                found.push_back(type);
        return found;
    }

    /// Offers a part no longer: find() still has it, for the jobs that use it.
    void lay_aside(std::string_view id);

    /// The parts that ship with the program alone.
    [[nodiscard]] Catalogue shipped() const;

    /// Of those that are offered.
    [[nodiscard]] const std::vector<std::string>& ids() const { return order_; }

    /// The known id nearest to a mistyped one; empty where none is near.
    [[nodiscard]] std::string nearest(std::string_view id) const;

private:
    std::map<std::string, PartType, std::less<>> types_;
    std::vector<std::string> order_;
    std::map<std::string, std::string, std::less<>> own_; ///< definitions by id
    std::map<std::string, Newer, std::less<>> newer_;
};

} // namespace conductus::catalogue
