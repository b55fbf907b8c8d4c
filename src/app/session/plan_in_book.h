// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "app/session/session.h"

namespace conductus::app {

/// Reads a job of a book and works its figures out: no options. On any thread but the interface's.
/// Errors: as of shop::Book.
Result<PlanPtr> plan_in_book(const std::filesystem::path& book, shop::JobId id,
                             const CataloguePtr& parts);

} // namespace conductus::app
