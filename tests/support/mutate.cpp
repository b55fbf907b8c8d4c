// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/mutate.h"

#include "core/job/names.h"
#include "core/job/terminals.h"
#include "support/fixtures.h"

namespace conductus::test {
namespace {

class Slip {
public:
    Slip(job::Job& job, std::mt19937& random) : job_(job), random_(random) {
        for (const auto& [owner, names] : job::terminals_of(job, parts()))
            for (const std::string& name : names)
                terminals_.push_back(owner + "." + name);
    }

    void once() {
        switch (whole(0, 15)) {
        case 0:
        case 1:
        case 2: // a wire on another terminal
            if (job::Wire* w = any(job_.wires)) end_of(*w) = terminal();
            break;
        case 3: { // two terminals exchanged
            const std::string a = terminal(), b = terminal();
            for (job::Wire& w : job_.wires)
                for (std::string* end : {&w.from, &w.to})
                    if (*end == a)
                        *end = b;
                    else if (*end == b)
                        *end = a;
            break;
        }
        case 4: // plus and minus of one thing exchanged
            if (job::Part* p = any(job_.parts)) turn(p->ref);
            break;
        case 5:
            if (!job_.wires.empty())
                job_.wires.erase(job_.wires.begin() + whole(0, size(job_.wires) - 1));
            break;
        case 6: {
            job::Wire w;
            w.ref = job::free_ref(job_, "W");
            w.from = terminal(), w.to = terminal();
            w.role = static_cast<job::Role>(whole(0, 4));
            w.gauge = whole(18, 30);
            job_.wires.push_back(w);
            break;
        }
        case 7:
            if (job::Wire* w = any(job_.wires)) w->gauge = whole(18, 36);
            break;
        case 8:
            if (job::Wire* w = any(job_.wires)) w->role = static_cast<job::Role>(whole(0, 4));
            break;
        case 9:
            if (job::Part* p = any(job_.parts)) p->at = Millimetre(uniform(0, 220));
            break;
        case 10:
            if (job::Part* p = any(job_.parts)) p->measured.resistance = Ohm(uniform(0.005, 0.6));
            break;
        case 11: // another part of the same kind
            if (job::Part* p = any(job_.parts)) another_type(*p);
            break;
        case 12:
            if (job::Blade* b = any(job_.blades))
                for (job::Strip& s : b->strips)
                    s.pixels = whole(10, 160);
            break;
        case 13:
            if (job::Fastener* s = any(job_.hilt.fasteners))
                s->loosen = static_cast<job::Loosen>(whole(0, 1)),
                s->at = Millimetre(uniform(0, 280));
            break;
        case 14:
            if (job::Look* l = any(job_.looks))
                l->colour = {uniform(0, 1), uniform(0, 1), uniform(0, 1), 0},
                l->cap = uniform(0, 1);
            break;
        case 15:
            if (job::Wire* w = any(job_.wires)) w->length = Millimetre(uniform(5, 300));
            break;
        }
    }

private:
    int whole(int a, int b) { return std::uniform_int_distribution<>(a, b)(random_); }
    double uniform(double a, double b) { return std::uniform_real_distribution<>(a, b)(random_); }
    template <class List>
    static int size(const List& list) {
        return static_cast<int>(list.size());
    }
    template <class T>
    T* any(std::vector<T>& list) {
        return list.empty() ? nullptr : &list[static_cast<std::size_t>(whole(0, size(list) - 1))];
    }
    const std::string& terminal() {
        return terminals_[static_cast<std::size_t>(whole(0, size(terminals_) - 1))];
    }
    std::string& end_of(job::Wire& w) { return whole(0, 1) ? w.from : w.to; }
    void turn(const std::string& ref) {
        const std::string plus = ref + ".plus", minus = ref + ".minus";
        for (job::Wire& w : job_.wires)
            for (std::string* end : {&w.from, &w.to})
                if (*end == plus)
                    *end = minus;
                else if (*end == minus)
                    *end = plus;
    }
    void another_type(job::Part& part) {
        const auto* now = parts().find(part.type);
        std::vector<std::string> like;
        for (const std::string& id : parts().ids())
            if (parts().find(id)->figures.index() == now->figures.index()) like.push_back(id);
        part.type = like[static_cast<std::size_t>(whole(0, size(like) - 1))];
    }

    job::Job& job_;
    std::mt19937& random_;
    std::vector<std::string> terminals_;
};

} // namespace

void mutate(job::Job& job, std::mt19937& random) {
    for (int i = std::uniform_int_distribution<>(1, 3)(random); i > 0; --i)
        Slip(job, random).once();
}

} // namespace conductus::test
