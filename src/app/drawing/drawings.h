// SPDX-License-Identifier: GPL-3.0-or-later
// Every drawing that can be made of a job, and every overlay of the long section: one list each.
#pragma once

#include <QObject>
#include <functional>
#include <memory>
#include <string_view>
#include <vector>

#include "app/drawing/inks.h"
#include "app/drawing/section_drawing.h"
#include "core/plan/questions.h"

namespace conductus::app {

/// What the long section shows over the bodies.
struct OverlayEntry {
    Overlay overlay;
    std::string_view id;      ///< "volts"
    const char *title, *help; ///< to be translated in the context "Overlay"
};
const std::vector<OverlayEntry>& overlays();
/// Null: there is none of that id.
const OverlayEntry* overlay_named(std::string_view id);

/// What a drawing is made of.
struct DrawingRequest {
    std::shared_ptr<const plan::Plan> plan; ///< with its options
    Overlay overlay = Overlay::body;
    std::string look;    ///< empty: that of the use
    std::string effect;  ///< to be filmed; empty: the look is
    std::string figure;  ///< to be explained; empty: the first crackle
    std::string variant; ///< to be compared with; empty: the first
    std::string part;    ///< id of a type; empty: of the job's first part
    std::string at;      ///< place or time, as it is typed
    /// Answers questions beside the plan, here and now.
    std::function<std::shared_ptr<const void>(const plan::Question&)> ask;

    template <class Q>
    [[nodiscard]] plan::AnswerPtr<Q> answer(Q question) const {
        return std::static_pointer_cast<const Result<typename Q::Answer>>(
            ask(plan::Question(std::move(question))));
    }
};

struct DrawingEntry {
    std::string_view id;                 ///< "lanes"
    const char* title;                   ///< to be translated in the context "Drawing"
    std::vector<std::string_view> takes; ///< options that say something of it: "--at"
    /// Errors: what was asked for is not there, or can not be worked out.
    std::function<Result<DrawingPtr>(const DrawingRequest&)> make;
};
const std::vector<DrawingEntry>& drawings();
/// Null: there is none of that id.
const DrawingEntry* drawing_named(std::string_view id);

} // namespace conductus::app
