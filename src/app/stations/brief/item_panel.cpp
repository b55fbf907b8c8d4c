// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/item_panel.h"

#include <QFormLayout>

#include "app/shell/fields.h"
#include "app/stations/brief/inspection_table.h"
#include "app/stations/brief/picture_strip.h"
#include "core/base/parse.h"
#include "core/job/edits.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"

namespace conductus::app {

ItemPanel::ItemPanel(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    setObjectName("paper");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 8, 14, 10);
    title_ = label({}, "heading", this);
    title_->setObjectName("itemTitle");
    title_->setWordWrap(true);
    column->addWidget(title_);
    form_ = new QWidget(this);
    auto* form = new QFormLayout(form_);
    form->setContentsMargins(0, 0, 0, 0);
    form->setVerticalSpacing(5);
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);

    condition_ = word_combo<job::Condition>(this, "itemCondition", tr("Found"));
    form->addRow(tr("found"), condition_);
    reading_ = new Field(
        tr("Reading"), [this](const QString& t) { return take_reading(t); }, this);
    reading_->line()->setObjectName("itemReading");
    unit_ = word_combo<job::ReadingUnit>(this, "itemUnit", tr("Unit of the reading"));
    unit_->setItemText(0, tr("no unit"));
    for (int i = 1; i < unit_->count(); ++i)
        unit_->setItemText(i, unit_->itemText(i).replace("Ohm", QString::fromUtf8("Ω")));
    auto* read = new QHBoxLayout;
    read->addWidget(reading_, 1);
    read->addWidget(unit_);
    form->addRow(tr("reading"), read);
    part_ = new QComboBox(this);
    part_->setObjectName("itemPart");
    part_->setAccessibleName(tr("The part it is about"));
    part_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    part_->setMinimumContentsLength(12);
    form->addRow(tr("of part"), part_);
    feeds_ = label({}, "second", this);
    feeds_->setObjectName("itemFeeds");
    feeds_->setWordWrap(true);
    form->addRow(QString(), feeds_);
    auto text = [this](const QString& name, const char* object,
                       std::string job::Inspected::*member) {
        auto* field = new Field(
            name,
            [this, member](const QString& typed) -> Result<void> {
                change([&](job::Inspected& i) {
                    i.*member = typed.trimmed().left(4000).toStdString();
                });
                return {};
            },
            this);
        field->line()->setObjectName(object);
        return field;
    };
    note_ = text(tr("Note on the item"), "itemNote", &job::Inspected::note);
    form->addRow(tr("note"), note_);
    fate_ = word_combo<job::Fate>(this, "itemFate", tr("Kept or replaced"));
    form->addRow(tr("then"), fate_);
    why_ = text(tr("Why it is kept or replaced"), "itemWhy", &job::Inspected::why);
    form->addRow(tr("why"), why_);
    column->addWidget(form_);
    pictures_ = new PictureStrip(bench, this);
    column->addWidget(pictures_, 1);

    connect(condition_, &QComboBox::activated, this, [this](int i) {
        change([i](job::Inspected& item) { item.condition = static_cast<job::Condition>(i); });
    });
    connect(unit_, &QComboBox::activated, this, [this](int i) {
        change([i](job::Inspected& item) { item.unit = static_cast<job::ReadingUnit>(i); });
    });
    connect(fate_, &QComboBox::activated, this, [this](int i) {
        change([i](job::Inspected& item) { item.fate = static_cast<job::Fate>(i); });
    });
    connect(part_, &QComboBox::activated, this, [this](int i) {
        const std::string ref = part_->itemData(i).toString().toStdString();
        change([&](job::Inspected& item) { item.part = ref; });
    });
    connect(pictures_, &PictureStrip::added, this,
            [this](const QString& id, const files::Attachment& picture, const QString& caption) {
                change(
                    [&](job::Inspected& item) {
                        if (item.pictures.size() < job::limits::pictures_each)
                            item.pictures.push_back({id.toStdString(), caption.toStdString()});
                    },
                    {{id.toStdString(), picture}});
            });
    connect(pictures_, &PictureStrip::removed, this, [this](int at) {
        change([at](job::Inspected& item) {
            if (at < static_cast<int>(item.pictures.size()))
                item.pictures.erase(item.pictures.begin() + at);
        });
    });
}

void ItemPanel::change(const std::function<void(job::Inspected&)>& change,
                       files::Attachments attachments) {
    const auto& items = bench_.session.job().inspection;
    if (index_ < 0 || index_ >= static_cast<int>(items.size())) return;
    job::Inspected next = items[static_cast<std::size_t>(index_)];
    change(next);
    (void)bench_.session.edit(tr("Inspect %1").arg(QString::fromStdString(next.item)),
                              job::inspect(static_cast<std::size_t>(index_), next),
                              std::move(attachments));
}

Result<void> ItemPanel::take_reading(const QString& typed) {
    if (typed.trimmed().isEmpty()) {
        change([](job::Inspected& i) { i.reading.reset(); });
        return {};
    }
    // "58 mΩ" brings its unit along.
    QString text = typed.trimmed();
    text.replace(QString::fromUtf8("Ω"), "Ohm");
    static const QRegularExpression tail("\\s*([A-Za-z]+)$");
    std::optional<job::ReadingUnit> unit;
    if (const auto match = tail.match(text); match.hasMatch()) {
        unit = job::from_word<job::ReadingUnit>(match.captured(1).toStdString());
        if (!unit)
            return problem("", "this unit is not known here",
                           "Write V, A, Ohm, mOhm, mAh, mm or dB");
        text = text.left(match.capturedStart());
    }
    const auto value = parse_number(text.toStdString());
    if (!value) return tl::unexpected(value.error());
    if (!job::limits::figure.holds(*value))
        return problem("", "this is out of range",
                       "Write a number from −1,000,000,000 to 1,000,000,000");
    change([&](job::Inspected& i) {
        i.reading = *value;
        if (unit) i.unit = *unit;
    });
    return {};
}

void ItemPanel::show_item(int index) {
    const auto& items = bench_.session.job().inspection;
    index_ = index < static_cast<int>(items.size()) ? index : -1;
    form_->setVisible(index_ >= 0);
    pictures_->setVisible(index_ >= 0);
    if (index_ < 0) {
        title_->setText(tr("Lay out the checklist of this kind of job, go down it with the arrow "
                           "keys, and press the letter of what you find."));
        return;
    }
    const job::Inspected& item = items[static_cast<std::size_t>(index_)];
    title_->setText(QString::fromStdString(item.item));
    condition_->setCurrentIndex(static_cast<int>(item.condition));
    reading_->show_value(item.reading ? QString::number(*item.reading) : QString());
    unit_->setCurrentIndex(static_cast<int>(item.unit));
    fate_->setCurrentIndex(static_cast<int>(item.fate));
    note_->show_value(QString::fromStdString(item.note));
    why_->show_value(QString::fromStdString(item.why));
    for (Field* field : {note_, why_})
        if (!field->line()->hasFocus()) field->line()->setCursorPosition(0);
    part_->clear();
    part_->addItem(tr("none"), QString());
    for (const job::Part& part : bench_.session.job().parts)
        part_->addItem(QString("%1, %2").arg(
                           QString::fromStdString(part.ref),
                           QString::fromStdString(bench_.session.parts().find(part.type)->name)),
                       QString::fromStdString(part.ref));
    part_->setCurrentIndex(std::max(0, part_->findData(QString::fromStdString(item.part))));
    const job::Part* part = job::find_ref(bench_.session.job().parts, item.part);
    const bool ohms = item.unit == job::ReadingUnit::ohm || item.unit == job::ReadingUnit::milliohm;
    const bool feeds = part && item.reading && item.fate != job::Fate::replaced &&
                       (ohms ? part->measured.resistance.has_value()
                             : item.unit == job::ReadingUnit::milliampere_hour &&
                                   part->measured.capacity.has_value());
    feeds_->setVisible(feeds);
    if (feeds)
        feeds_->setText(tr("%1 is planned with: it overrides the catalogue for %2")
                            .arg(reading_text(item), QString::fromStdString(item.part)));
    pictures_->show_pictures(item.pictures);
}

} // namespace conductus::app
