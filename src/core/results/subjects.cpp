#include "core/results/subjects.h"

#include "core/library/registry.h"

namespace ts {
std::vector<Subject> subjectsOf(Subject::Kind kind, const Dossier& dossier)
{
    std::vector<Subject> all;
    switch (kind) {
    case Subject::Kind::Machine:
        all.push_back(wholeMachine());
        break;
    case Subject::Kind::Function:
        for (const SafetyFunction& f : dossier.functions)
            all.push_back(about(f.id));
        break;
    case Subject::Kind::Motor:
        for (const Device& d : dossier.circuit.devices)
            if (isActuator(d))
                all.push_back(about(d.id));
        break;
    }
    return all;
}

} // namespace ts
