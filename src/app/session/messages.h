// SPDX-License-Identifier: GPL-3.0-or-later
// What the parts of a window have to say to the person, without knowing where it is
// shown.
#pragma once
#include "core/base/remark.h"

#include <QObject>
#include <QString>
#include <vector>

namespace underridge::app {

class Messages : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    /// One thing, in passing.
    void tell(const Remark& remark) { Q_EMIT told(remark); }
    /// What went wrong, where it cannot be missed. `title`: what was to be done.
    void refuse(const QString& title, const Remark& why) { Q_EMIT refused(title, why); }
    /// What a file held that is worth knowing, to be gone through; none is fine.
    void list(const QString& about, const std::vector<Remark>& remarks) { Q_EMIT listed(about, remarks); }

Q_SIGNALS:
    void told(const underridge::Remark& remark);
    void refused(const QString& title, const underridge::Remark& why);
    void listed(const QString& about, const std::vector<underridge::Remark>& remarks);
};

} // namespace underridge::app
