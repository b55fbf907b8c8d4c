// SPDX-License-Identifier: GPL-3.0-or-later
// Makes the memory card that ships beside the demo job Heron, with four faults: scripts/demo-card.
#include <filesystem>
#include <iostream>

#include "support/fixtures.h"
#include "support/made_up_card.h"

int main(int argc, char** argv) {
    using namespace conductus;
    if (argc != 2) {
        std::cerr << "demo_card FOLDER\n";
        return 2;
    }
    const std::filesystem::path card = argv[1];
    std::filesystem::remove_all(card);
    test::make_card(card, test::demo("heron"), test::parts());
    // Capitals count: no font kelp is on the card.
    std::filesystem::rename(card / "kelp", card / "Kelp");
    // Nothing is heard when a blast comes at dusk.
    std::filesystem::remove(card / "dusk" / "bolt.wav");
    // The track of the storm was forgotten.
    std::filesystem::remove(card / "tracks" / "storm.wav");
    // Moonrise is far louder than the others.
    unsigned seed = 100;
    for (const char* name : {"steady", "sweep", "strike", "bolt", "rise", "fall"})
        test::write_tone(card / "moon" / (std::string(name) + ".wav"),
                         {0.4, 440, 0.95, 22050, 1, 16, 0.05, ++seed, false});
    return 0;
}
