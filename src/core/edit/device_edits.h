#pragma once
// Changes to the devices that are there: values, part, name, contacts of an add-on block, order in drawings, and taking
// one away. Pure functions from an old file to a new one; wires are wiring_edits.h.

#include "core/edit/wiring_edits.h"
#include "core/library/kind.h"

#include <optional>

namespace ts::edit {

/// A contact of a device by its name, "13-14".
struct ContactUse {
    std::string role;
    ContactKind kind = ContactKind::NormallyOpen;
    Ends ends;
    bool isUsed = false; ///< a wire is on it
};

/// What a device has to switch control circuits with. Main poles are not among it.
struct ContactBudget {
    std::vector<ContactUse> contacts;
    bool takesBlocks = false; ///< an add-on block can give it more
};
/// NotFound for a device that is not there; else what its kind refuses.
Expected<ContactBudget> contactBudget(const Circuit& circuit, DeviceId device);

/// The device with one contact more, under the next free number, and that contact's name. Refused for a device that
/// takes no block, or when its kind has no room for more.
struct AddedContact {
    DossierFile file;
    ContactUse contact;
};
Expected<AddedContact> withContactAdded(const DossierFile& file, DeviceId device, ContactKind kind);

/// An enclosure of that size, "0.8 1.2 0.3" (width, height, depth in m): an exposed metal part. Its
/// protective conductor is drawn by who has seen it: none is made up. OutOfRange for other figures.
Expected<DossierFile> withEnclosure(const DossierFile& file, std::string_view size);

/// Another part of the parts list, or none. NotFound for a part that is not there; Refused for one of another kind, or
/// if a terminal that bears a wire would be gone.
Expected<DossierFile> withPartOf(const DossierFile& file, DeviceId device, const std::string& part);

/// One value of a device from text as in a parts list; empty takes the device's own value away, so that the part's or
/// the kind's holds. Refused or OutOfRange by the kind, and if a terminal that bears a wire would be gone.
Expected<DossierFile> withValue(
    const DossierFile& file, DeviceId device, std::string_view parameter, std::string_view text);

/// The same for a part of the parts list, and with it for all devices that are of it. NotFound for no such part.
Expected<DossierFile> withPartValue(
    const DossierFile& file, const std::string& part, std::string_view parameter, std::string_view text);

/// Refused for a tag that is taken or cannot be one. Scenarios follow.
Expected<DossierFile> withTag(const DossierFile& file, DeviceId device, const std::string& tag);
Expected<DossierFile> withLabel(const DossierFile& file, DeviceId device, const std::string& label);
/// What else is to be remembered of it. NotFound for no such device.
Expected<DossierFile> withRemark(const DossierFile& file, DeviceId device, const std::string& remark);

/// The device gone, with its mechanical links; what met on each of its terminals stays joined. Refused while a safety
/// function or a scenario speaks of it. Gaps are not closed: taking a contact out of its path comes first.
Expected<DossierFile> withoutDevice(const DossierFile& file, DeviceId device);

/// Drawings show these devices in this order. Those not named keep their place behind the one they follow.
DossierFile withDrawingOrder(const DossierFile& file, const std::vector<DeviceId>& order);

} // namespace ts::edit
