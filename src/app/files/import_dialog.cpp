// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/import_dialog.h"

#include "app/style/pieces.h"
#include "core/scene/scene.h"
#include "paint/picture.h"

#include <QDialogButtonBox>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace underridge::app {
using namespace model;
namespace {

constexpr QSize pictureSize(560, 240);
/// Above this a preview would take longer than one wants to wait for it.
constexpr std::size_t mostDrawn = 20'000;

QString countsOf(const Network& network) {
    QStringList parts{
        ImportDialog::tr("%Ln device(s)", nullptr, static_cast<int>(network.all<Device>().size())),
        ImportDialog::tr("%Ln link(s)", nullptr, static_cast<int>(network.all<Link>().size()))};
    if (const auto groups = static_cast<int>(network.all<Group>().size()); groups > 0)
        parts << ImportDialog::tr("%Ln group(s)", nullptr, groups);
    parts << ImportDialog::tr("%Ln sheet(s)", nullptr, static_cast<int>(network.all<Sheet>().size()));
    return parts.join(QStringLiteral(", "));
}

QPixmap pictureOf(const Network& network, const paint::Theme& theme, double ratio) {
    const auto sheets = network.sheetsInOrder();
    if (sheets.empty() || network.all<Device>().size() > mostDrawn)
        return {};
    paint::PictureOptions options;
    options.theme = &theme;
    options.size = pictureSize * ratio;
    const auto bytes = paint::pictureBytes(scene::Scene::build(network, sheets.front().id), options, {});
    QPixmap picture;
    if (bytes)
        picture.loadFromData(*bytes, "PNG");
    picture.setDevicePixelRatio(ratio);
    return picture;
}

} // namespace

ImportDialog::ImportDialog(const exchange::Loaded& loaded, const QString& file, const paint::Theme& theme,
                           QWidget* parent)
    : QDialog(parent),
      ownSheets_(new QRadioButton(tr("On &sheets of its own"))),
      presentSheet_(new QRadioButton(tr("On the &present sheet, beside what is there"))),
      remarks_(new RemarksList) {
    setObjectName(QStringLiteral("import"));
    setWindowTitle(tr("Import %1").arg(file));
    auto* layout = new QVBoxLayout(this);
    auto* counts = plainLabel(countsOf(loaded.network));
    embolden(counts);
    layout->addWidget(counts);
    if (const QPixmap picture = pictureOf(loaded.network, theme, devicePixelRatioF()); !picture.isNull()) {
        auto* preview = new QLabel;
        preview->setPixmap(picture);
        preview->setAccessibleName(tr("Preview of the first sheet"));
        preview->setFrameShape(QFrame::StyledPanel);
        layout->addWidget(preview, 0, Qt::AlignHCenter);
    }
    layout->addWidget(new QLabel(loaded.remarks.empty()
                                     ? tr("Nothing was noticed on reading it.")
                                     : tr("On reading it: %1").arg(countsText(loaded.remarks))));
    remarks_->show(loaded.remarks);
    remarks_->setVisible(!loaded.remarks.empty());
    remarks_->setMinimumHeight(110);
    layout->addWidget(remarks_, 1);
    layout->addWidget(new QLabel(tr("Put it")));
    layout->addWidget(ownSheets_);
    layout->addWidget(presentSheet_);
    ownSheets_->setChecked(true);
    auto* buttons = new QDialogButtonBox;
    auto* take = buttons->addButton(tr("Import"), QDialogButtonBox::AcceptRole);
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    take->setDefault(true);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    resize(loaded.remarks.empty() ? 620 : 820, loaded.remarks.empty() ? 420 : 580);
}

edit::ImportOnto ImportDialog::onto() const {
    return ownSheets_->isChecked() ? edit::ImportOnto::ownSheets : edit::ImportOnto::presentSheet;
}

} // namespace underridge::app
