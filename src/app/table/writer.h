// SPDX-License-Identifier: GPL-3.0-or-later
// Where what is typed in a table goes: the open job, or a document of another kind.
#pragma once

#include <QString>
#include <functional>
#include <utility>

#include "core/job/edits.h"

namespace conductus::app {

class TableWriter {
public:
    TableWriter() = default;
    TableWriter(const TableWriter&) = delete;
    TableWriter& operator=(const TableWriter&) = delete;
    virtual ~TableWriter() = default;

    /// Whether the edit could be made.
    [[nodiscard]] virtual Result<void> tried(const job::Edit& change) = 0;
    /// Makes it, as one step of what can be undone. Refused: nothing changes.
    [[nodiscard]] virtual Result<void> edit(const QString& label, const job::Edit& change) = 0;
    /// The same where nothing on the page can tell a refusal.
    virtual void change(const QString& label, const job::Edit& change) = 0;
};

/// A document that is no job, for tables to type in. Its edits are functions of it, made by
/// edit_of(); each is made on a copy first.
template <class Document>
class DraftWriter : public TableWriter {
public:
    using Change = std::function<Result<void>(Document&)>;
    /// `written` is told of every edit that was made, with the document before it.
    explicit DraftWriter(std::function<void(const QString& label, const Document& before)> written)
        : written_(std::move(written)) {}

    [[nodiscard]] const Document& document() const { return document_; }
    /// Another document in its place, without telling it.
    void show(Document document) { document_ = std::move(document); }

    [[nodiscard]] job::Edit edit_of(Change change) {
        return job::beside_the_job([this, change = std::move(change)] { return change(*target_); });
    }
    Result<void> tried(const job::Edit& change) override {
        Document copy = document_;
        return made(copy, change);
    }
    Result<void> edit(const QString& label, const job::Edit& change) override {
        Document copy = document_;
        if (auto ok = made(copy, change); !ok) return ok;
        std::swap(document_, copy);
        written_(label, copy);
        return {};
    }
    void change(const QString& label, const job::Edit& change) override {
        (void)edit(label, change);
    }

private:
    Result<void> made(Document& into, const job::Edit& change) {
        job::Job none;
        target_ = &into;
        auto ok = change(none);
        target_ = &document_;
        return ok;
    }
    Document document_;
    Document* target_ = &document_;
    std::function<void(const QString&, const Document&)> written_;
};

} // namespace conductus::app
