// SPDX-License-Identifier: GPL-3.0-or-later
// The document: what the installer knows and decides. Plain values, no behaviour.
// The file form is described in docs/job-format.md; the ranges are in core/job/limits.h.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/quantity.h"
#include "core/job/bench.h"
#include "core/job/brief.h"
#include "core/job/card.h"
#include "core/job/handling.h"
#include "core/job/hilt.h"
#include "core/job/inspection.h"
#include "core/job/motion.h"

namespace conductus::job {

enum class Kind { conversion, repair, upgrade };
enum class Stage { brief, survey, agreed, wiring, bench, handed_over };
enum class CellTop { flat, button };
/// Two: the first colour up to a place, the second beyond. Cycle: from one to the other and back.
/// Flame: fire whose foot has the first colour and whose tip has the second. Charge: the first
/// colour as far along the blade as the cell is charged, the second beyond.
enum class Style { steady, pulse, flicker, fire, bands, two, cycle, flame, charge };
enum class EffectKind { flash, mark, lock_up, drag, melt, ignition, retraction };
enum class Role { supply, return_path, data, button, sound };

/// One contact of a connector, measured by itself.
struct MeasuredPin {
    std::string pin; ///< "plus2", "minus1": pole and number
    Ohm resistance;
    bool operator==(const MeasuredPin&) const = default;
};

/// Values measured on this very part; each overrides the catalogue's.
struct Measured {
    std::optional<Ohm> resistance; ///< cell R0, switch contact, or every pin
    std::optional<MilliAmpereHour> capacity;
    std::vector<MeasuredPin> pins; ///< connectors: those that are not as the others
    bool operator==(const Measured&) const = default;
};

/// What the installer chose of a part that comes in many values.
struct Chosen {
    std::optional<Ohm> resistance;     ///< resistors
    std::optional<Ampere> current;     ///< LED drivers
    std::optional<Second> sleep_after; ///< boards: idle for so long until it sleeps; 0: never
    bool operator==(const Chosen&) const = default;
};

/// A part fitted in the hilt.
struct Part {
    std::string ref;                       ///< "B1"
    std::string type;                      ///< id in the catalogue
    Millimetre at;                         ///< where its body starts, from the pommel end
    Millimetre off_axis;                   ///< up, in the plane of the long section
    std::optional<std::string> protection; ///< cells: id of the protection board
    CellTop top = CellTop::flat;           ///< cells
    Measured measured;
    Millimetre side;     ///< across that plane
    Degree turn;         ///< boxes: about the axis
    std::string carrier; ///< ref of what it rides on, where the hilt lists carriers
    Chosen chosen;
    std::optional<std::string> adapter; ///< cells: id of the adapter it sits in
    std::optional<std::string> bay;     ///< cells: id of the contacts it is held between
    std::optional<Ohm> bay_measured;    ///< cells: of those contacts, both ends together
    End minus_faces = End::pommel;      ///< cells: the end of the hilt their minus is toward
    std::string note;
    bool operator==(const Part&) const = default;
};

/// Copper that brings the blade's pads to a place along a strip as well.
struct Feed {
    double at = 1; ///< foot 0 to tip 1
    Ohm lead;      ///< both rails together
    bool operator==(const Feed&) const = default;
};

struct Strip {
    std::string ref;
    std::string type;
    int pixels = 0;
    Millimetre length;
    Ohm lead;                        ///< foot pad to first pixel and back, both rails together
    std::optional<OhmPerMetre> rail; ///< measured, each rail
    std::vector<Feed> feeds;         ///< besides the foot
    bool operator==(const Strip&) const = default;
};

/// A segmented LED string, foot to tip, with its flash string: lit through pads of their own.
struct LedString {
    std::string ref;
    std::string type;
    bool operator==(const LedString&) const = default;
};

/// Another socket that a blade may go into.
struct GoesInto {
    std::string socket; ///< ref of a hilt connector or of an LED that lights it from the hilt
    bool operator==(const GoesInto&) const = default;
};

enum class TubeMaterial { unsaid, polycarbonate, acrylic, other };
enum class Tint { clear, frosted, white, coloured };
enum class Diffuser { none, film, foam };
enum class Closing { unsaid, vented, sealed };

/// How a blade is made, beside its strips.
struct Tube {
    Millimetre bore; ///< 0: not measured
    TubeMaterial material = TubeMaterial::unsaid;
    Tint tint = Tint::clear;
    Diffuser diffuser = Diffuser::none;
    Millimetre diffuser_thick;    ///< of the layer between tube and strips
    std::optional<double> passes; ///< share of the light that leaves; empty: as usual for its kind
    Millimetre dark;              ///< from its foot to the first pixel
    int tip_pixels = 0;           ///< of its strips, that point forward at the tip
    Closing closing = Closing::unsaid;
    Millimetre foot;        ///< diameter of what goes into the socket; 0: as the tube
    Millimetre foot_length; ///< of the thinned foot
    bool operator==(const Tube&) const = default;
};

enum class BladeForm { blade, plug };
/// Whether a blade's pixels were counted, or assumed of one that the owner has.
enum class PixelCount { counted, assumed };

/// A blade, or a plug that closes a socket: one without a strip is plain, with one it is lit.
struct Blade {
    std::string ref;
    Millimetre length;
    Millimetre outer;
    std::string connector; ///< ref of the hilt connector it mates with; empty: wired to its pads
    std::vector<Strip> strips;
    std::vector<LedString> strings;
    /// Where its axis meets the hilt's; empty: on its connector, else at the mouth of the hilt.
    std::optional<Millimetre> stands_at;
    Degree angle; ///< from the hilt's axis, in the plane of the long section: 90 points up
    std::vector<GoesInto> goes_into; ///< sockets beside its own
    BladeForm form = BladeForm::blade;
    PixelCount count = PixelCount::counted;
    Tube tube;
    bool operator==(const Blade&) const = default;
};

/// A wire between two terminals, written "B1.plus".
struct Wire {
    std::string ref;
    std::string from, to;
    Role role = Role::supply;
    int gauge = 26;                   ///< AWG
    std::optional<Millimetre> length; ///< measured, or decided; empty: as its route asks
    std::optional<Ohm> resistance;    ///< measured
    std::string colour;               ///< of its insulation; empty: by its role
    std::optional<Degree> turn;       ///< where round the bore it runs; empty: the shorter way
    Millimetre loop;                  ///< service loop beside what the chassis asks
    bool operator==(const Wire&) const = default;
};

/// Duty of each channel, 0 to 1.
struct Colour {
    double red = 0, green = 0, blue = 0, white = 0;
    bool operator==(const Colour&) const = default;
};

/// What one light shows in a look, where it is not what the blade shows.
struct LightOverride {
    std::string light; ///< ref of a strip, blade, accent or LED, or name of a stretch
    Colour colour;
    Style style = Style::steady;
    double cap = 1;
    Colour second;               ///< of styles that have two colours
    std::optional<double> meets; ///< where the second begins, foot 0 to tip 1; empty: half-way
    bool operator==(const LightOverride&) const = default;
};

/// What a blade shows.
struct Look {
    std::string name;
    Colour colour;
    Style style = Style::steady;
    double cap = 1;                    ///< brightness cap, 0 to 1
    std::vector<LightOverride> lights; ///< that show something else
    Colour second;                     ///< of styles that have two colours
    std::optional<double> meets; ///< where the second begins, foot 0 to tip 1; empty: half-way
    bool operator==(const Look&) const = default;
};

/// How a light goes along with an effect: as usual (what shows the blade's look does, what has a
/// setting of its own does not), with the blade, in a way of its own, or not at all.
enum class Follows { usual, with_blade, own, none };
/// What an effect does to the segments of a string that it covers.
enum class Segments { stay, go_dark, alone_lit };
enum class FlashRow { usual, lit, dark };

/// What an effect does to one light.
struct EffectLight {
    std::string light; ///< ref of a strip, blade, string, accent or LED
    Follows follows = Follows::usual;
    Colour colour; ///< where it goes its own way
    double cap = 1;
    Segments segments = Segments::stay;   ///< strings
    FlashRow flash_row = FlashRow::usual; ///< strings
    bool operator==(const EffectLight&) const = default;
};

/// A passing event over a look: part of the blade, from..to as fractions foot to tip.
struct Effect {
    std::string name;
    Colour colour;
    double cap = 1;
    double from = 0, to = 1;
    Second lasts;
    EffectKind kind = EffectKind::flash;
    std::vector<EffectLight> lights; ///< that do not go along as usual
    bool operator==(const Effect&) const = default;
};

/// A track that a preset plays: the name of its file.
struct Track {
    std::string name;
    bool operator==(const Track&) const = default;
};

/// The name of an effect that a preset does without.
struct LeftOut {
    std::string effect;
    bool operator==(const LeftOut&) const = default;
};

/// What the board shows and plays under one name. Its effects are those of the job, which are the
/// first preset's, but for those that it has of its own (core/job/presets.h).
struct Preset {
    std::string name;
    std::string font; ///< name of the set of sounds
    std::string look; ///< name of the look
    std::vector<Track> tracks;
    std::vector<Effect> effects;   ///< of its own: in place of those of the same name, or beside
    std::vector<LeftOut> left_out; ///< effects that it does without
    std::string was;               ///< name of the preset found that it comes of, if another
    bool operator==(const Preset&) const = default;
};

/// When no blade is lit.
enum class Rest { asleep, idle, blade_out, charging };

/// What lights show while no blade is lit; what is not named is dark.
struct Resting {
    Rest when = Rest::idle;
    std::string preset; ///< with which it is so; empty: always
    std::vector<LightOverride> lights;
    bool operator==(const Resting&) const = default;
};

enum class PlugUse { kill, charge, configure, blank };

/// A plug of the hilt: what goes into a jack.
struct Plug {
    std::string ref; ///< "PG1"
    PlugUse use = PlugUse::kill;
    std::string jack;                        ///< ref of the jack, port or kill that it is for
    Millimetre diameter, length;             ///< of what goes in; 0: not measured
    std::string mark;                        ///< how it is told from others: "red ring"
    std::string proved_on;                   ///< ISO date; empty: not proved
    std::optional<Volt> volts_out, volts_in; ///< at the board, plug out and plug in
    bool operator==(const Plug&) const = default;
};

/// A data line as the board is configured.
struct Line {
    std::string pad; ///< "U1.d1"
    int pixels = 0;  ///< programmed
    bool operator==(const Line&) const = default;
};

/// A stretch of a chain that the board drives as a light of its own.
struct Stretch {
    std::string name;
    std::string of;          ///< ref of a strip, accent or lit connector
    int first = 1, last = 1; ///< pixels, counted from 1 at its data end
    bool operator==(const Stretch&) const = default;
};

/// What a button pad does as the board is configured.
struct ButtonUse {
    std::string pad; ///< "U1.s1"
    std::string use; ///< "main", "second" ...
    bool operator==(const ButtonUse&) const = default;
};

/// What the board does about a blade that is not in its socket.
enum class BladeOut { unsensed, stays_dark, lights_accents };

/// The board's configuration beside its lines.
struct Config {
    int buttons = 0;             ///< button mode: one, two, three; 0: not entered
    std::vector<ButtonUse> pads; ///< in the order the board counts them
    BladeOut blade_out = BladeOut::unsensed;
    std::string sense_pad; ///< "U1.s3": that feels whether a blade is in
    MotionSettings motion;
    bool operator==(const Config&) const = default;
};

/// A wire of the plan that is soldered at both ends.
struct Soldered {
    std::string wire;
    bool operator==(const Soldered&) const = default;
};

enum class PhaseKind { stored, idle, ignited };

/// How often an effect of a kind comes while it is lit.
struct Rate {
    EffectKind kind = EffectKind::flash;
    double per_minute = 0;
    bool operator==(const Rate&) const = default;
};

/// A stretch of a day. Stored is deep sleep.
struct Phase {
    PhaseKind kind = PhaseKind::ignited;
    Minute lasts; ///< each time
    int times = 1;
    Minute pause;                       ///< idle between one time and the next
    std::vector<Rate> rates;            ///< ignited
    std::optional<Celsius> temperature; ///< where it is not the use's
    std::optional<double> volume;       ///< where it is not the use's
    bool operator==(const Phase&) const = default;
};

struct Use {
    std::string name;   ///< "stage run"
    std::string look;   ///< the look it is lit with
    std::string preset; ///< whose effects come; empty: the first that shows the look
    Minute clean;       ///< clean runtime the owner asked for
    Minute ignited;     ///< a day; follows from `day` where there is one
    Minute idle;        ///< a day; the same
    Celsius temperature{20};
    double volume = 0;      ///< 0 to 1 of the speaker's rated amplitude
    std::vector<Phase> day; ///< in its order; empty: as `ignited` and `idle` say
    bool operator==(const Use&) const = default;
};

/// Another way to build the same job, kept to compare with.
struct Variant {
    std::string name;
    std::string look; ///< of the use
    std::vector<Part> parts;
    std::vector<Blade> blades;
    std::vector<Wire> wires;
    std::vector<Line> lines;
    std::vector<Stretch> stretches;
    std::vector<Look> looks;
    std::vector<Effect> effects;
    std::vector<Soldered> soldered;
    /// With its carriers. Empty, as of a variant kept by an earlier version: hilt, configuration,
    /// presets, lights at rest and plugs are as the job's.
    std::optional<Hilt> hilt;
    Config config;
    std::string preset; ///< of the use
    std::vector<Preset> presets;
    std::vector<Resting> resting;
    std::vector<Plug> plugs;
    bool operator==(const Variant&) const = default;
};

/// A figure of a finding on the day it was answered.
struct AnsweredFigure {
    std::string label; ///< "carries"
    double value = 0;
    std::string unit;
    bool operator==(const AnsweredFigure&) const = default;
};

/// How grave a finding was.
enum class Gravity { stop, warn, note };
enum class Answer { accepted, acknowledged, agreed };

/// A finding that was answered: the shop or the owner lives with it, for a reason. It holds while
/// the finding is no worse than it was that day (core/findings/answered.h).
struct Answered {
    std::string finding; ///< id of the rule
    std::string about;   ///< what it named first: a ref, a look; may be empty
    Answer how = Answer::accepted;
    std::string why;
    std::string on; ///< ISO date
    Gravity gravity = Gravity::note;
    std::vector<AnsweredFigure> figures;
    bool operator==(const Answered&) const = default;
};

/// The definition of a part of the shop's own that the job is planned with.
struct PlannedWith {
    std::string type;        ///< id in the catalogue
    std::string definition;  ///< what names its definition (files::content_id)
    std::string passed_over; ///< a newer one that it was decided not to take; empty: none
    bool operator==(const PlannedWith&) const = default;
};

/// What stands in a socket now.
struct Mated {
    std::string socket; ///< ref of the hilt connector
    std::string blade;  ///< ref of a blade or plug; empty: nothing
    bool operator==(const Mated&) const = default;
};

struct Job {
    std::string name;
    Kind kind = Kind::conversion;
    std::string purpose;  ///< "for The Lantern Wardens"
    std::string promised; ///< ISO date, may be empty
    Stage stage = Stage::brief;
    std::string notes;
    Use use;
    std::vector<Use> uses; ///< others that are kept
    std::string charger;   ///< id of what charges it; empty: not said
    Hilt hilt;
    std::vector<Part> parts;
    std::vector<Blade> blades;
    std::vector<Mated> mated; ///< of sockets that are not named, core/job/mating.h tells
    std::vector<Wire> wires;
    std::vector<Look> looks;
    std::vector<Effect> effects;
    std::vector<Preset> presets; ///< in the order of the board
    std::vector<Resting> resting;
    std::vector<Line> lines;
    std::vector<Stretch> stretches;
    Config config;
    std::vector<Plug> plugs;
    Handling handling;
    std::vector<MotionTest> motion_tests;
    std::vector<PresetTold> presets_found; ///< as the hilt came, in the order of the board
    std::vector<PresetTold> presets_asked; ///< as the owner asks for them
    Card card;                             ///< as it was last read
    std::vector<Soldered> soldered;        ///< wires that are done
    std::vector<Wire> built;               ///< the harness as it was built; empty: nothing recorded
    std::string variant;           ///< what this way of building is called, where there are others
    std::vector<Variant> variants; ///< the others
    Brief brief;
    std::vector<Inspected> inspection;
    AsFound as_found;
    std::vector<LogEntry> log; ///< oldest first
    std::vector<Milestone> milestones;
    std::vector<Answered> answered;        ///< findings that somebody lives with
    std::vector<PlannedWith> planned_with; ///< one an own part that it uses
    Bench bench;
    bool operator==(const Job&) const = default;
};

} // namespace conductus::job
