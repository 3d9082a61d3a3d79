// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/arranging/pattern_dialog.h"

#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/model/words.h"
#include "core/scene/plates.h"

#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <set>

namespace underridge::app {
using namespace model;
using edit::Pattern;
using edit::PatternShape;
namespace {

constexpr QSize previewSize(380, 260);
constexpr int previewRestMs = 150;

QString titleOf(PatternShape shape) {
    switch (shape) {
    case PatternShape::row:
        return PatternDialog::tr("Row, not linked");
    case PatternShape::chain:
        return PatternDialog::tr("Chain");
    case PatternShape::ring:
        return PatternDialog::tr("Ring");
    case PatternShape::star:
        return PatternDialog::tr("Star: endpoints round a switch");
    case PatternShape::mesh:
        return PatternDialog::tr("Full mesh");
    case PatternShape::tree:
        return PatternDialog::tr("Tree");
    case PatternShape::fabric:
        return PatternDialog::tr("Fabric: spines and leaves");
    case PatternShape::dualHomed:
        return PatternDialog::tr("Access switches on a redundant pair");
    case PatternShape::campus:
        return PatternDialog::tr("Campus: buildings on a core pair");
    }
    return {};
}

QString figureTitle(const QString& name) {
    const std::map<QString, QString> titles{{"count", PatternDialog::tr("How many")},
                                            {"depth", PatternDialog::tr("Levels below the first")},
                                            {"fan", PatternDialog::tr("Devices below each")},
                                            {"spines", PatternDialog::tr("Spines")},
                                            {"leaves", PatternDialog::tr("Leaves")},
                                            {"parallel", PatternDialog::tr("Links of each pair")},
                                            {"sites", PatternDialog::tr("Buildings")},
                                            {"access", PatternDialog::tr("Access switches on each pair")},
                                            {"endpoints", PatternDialog::tr("Endpoints on each")},
                                            {"radius", PatternDialog::tr("Radius, 0 as needed")}};
    return titles.at(name);
}

std::string_view titleOfPart(PatternShape shape, int part) {
    const edit::PartTitles titles = edit::partTitles(shape);
    return part == 0 ? titles.upper : part == 1 ? titles.middle : titles.lower;
}

} // namespace

PatternDialog::PatternDialog(Session& session, Point centre, QWidget* parent)
    : QDialog(parent),
      session_(session),
      centre_(centre),
      form_(new QFormLayout),
      shape_(new QComboBox),
      picture_(new QLabel),
      summary_(plainLabel()) {
    setObjectName(QStringLiteral("pattern"));
    setWindowTitle(tr("Add a pattern"));
    for (const PatternShape shape : edit::allPatternShapes)
        shape_->addItem(titleOf(shape));
    shape_->setCurrentIndex(static_cast<int>(PatternShape::star));
    form_->addRow(tr("Shape"), shape_);
    addFigures();
    for (int part = 0; part < 3; ++part) {
        models_[part] = new QComboBox;
        models_[part]->addItem(tr("the usual one"), QString());
        for (const DeviceModel& each : session.catalogue().devices)
            models_[part]->addItem(shownText(each.name), shownText(each.id));
        models_[part]->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        models_[part]->setMinimumContentsLength(14);
        names_[part] = new QLineEdit;
        names_[part]->setMinimumWidth(150);
        names_[part]->setPlaceholderText(tr("acc-{01..}"));
        auto* both = new QWidget;
        auto* row = new QHBoxLayout(both);
        row->setContentsMargins(0, 0, 0, 0);
        row->addWidget(models_[part], 1);
        row->addWidget(names_[part], 1);
        form_->addRow(QStringLiteral(" "), both);
        connect(models_[part], &QComboBox::currentIndexChanged, this, &PatternDialog::follow);
        connect(names_[part], &QLineEdit::textEdited, this, &PatternDialog::follow);
    }
    addMedia();
    addPlace();
    picture_->setFixedSize(previewSize);
    picture_->setAccessibleName(tr("What it will be"));
    auto* buttons = new QDialogButtonBox;
    act_ = buttons->addButton(tr("Place"), QDialogButtonBox::AcceptRole);
    draw_ = buttons->addButton(tr("Draw its place"), QDialogButtonBox::ActionRole);
    draw_->setToolTip(tr("Draw on the sheet where it is to be and how large"));
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    act_->setDefault(true);
    connect(draw_, &QPushButton::clicked, this, [this] {
        rest_.stop();
        draw(); // of what is filled in now
        drawn_ = act_->isEnabled();
        if (drawn_)
            accept();
    });
    auto* left = new QVBoxLayout;
    left->addLayout(form_);
    left->addStretch(1);
    auto* right = new QVBoxLayout;
    right->addWidget(picture_);
    right->addWidget(summary_);
    right->addStretch(1);
    auto* columns = new QHBoxLayout;
    columns->addLayout(left, 1);
    columns->addSpacing(16);
    columns->addLayout(right);
    auto* all = new QVBoxLayout(this);
    all->addWidget(plainLabel(tr("Adds devices of a shape, named, linked over the best ports and placed.")));
    all->addLayout(columns, 1);
    all->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(shape_, &QComboBox::currentIndexChanged, this, &PatternDialog::follow);
    rest_.setSingleShot(true);
    rest_.setInterval(previewRestMs);
    connect(&rest_, &QTimer::timeout, this, &PatternDialog::draw);
    connect(&pictures_, &ScenePictures::made, this, [this](quint64, const QImage& image) {
        QPixmap pixmap = QPixmap::fromImage(image);
        pixmap.setDevicePixelRatio(devicePixelRatioF());
        picture_->setPixmap(pixmap);
    });
    follow();
}

void PatternDialog::addFigures() {
    using enum PatternShape;
    figures_ = {{"count", &Pattern::count, 1, 1000, {row, chain, ring, star, mesh}},
                {"depth", &Pattern::depth, 1, 8, {tree}},
                {"fan", &Pattern::fan, 1, 64, {tree}},
                {"spines", &Pattern::spines, 1, 64, {fabric}},
                {"leaves", &Pattern::leaves, 1, 512, {fabric}},
                {"parallel", &Pattern::parallel, 1, 8, {fabric}},
                {"sites", &Pattern::sites, 1, 100, {campus}},
                {"access", &Pattern::access, 1, 200, {dualHomed, campus}},
                {"endpoints", &Pattern::endpoints, 0, 200, {fabric, dualHomed, campus}},
                {"radius", &Pattern::radius, 0, 20'000, {ring, star, mesh}}};
    const Pattern usual;
    for (Figure& figure : figures_) {
        figure.field = new QSpinBox;
        figure.field->setRange(figure.least, figure.most);
        figure.field->setValue(usual.*figure.to);
        form_->addRow(figureTitle(QString::fromLatin1(figure.name)), figure.field);
        connect(figure.field, &QSpinBox::valueChanged, this, &PatternDialog::follow);
    }
}

void PatternDialog::addMedia() {
    std::set<Medium> cabled;
    for (const CableType& type : session_.catalogue().cables)
        cabled.insert(type.medium);
    for (QComboBox*& media : media_) {
        media = new QComboBox;
        media->addItem(tr("as fits best"), static_cast<int>(Medium::unknown));
        for (const auto& word : wordsOf(Medium{}))
            if (cabled.contains(word.value) && word.value != Medium::unknown && word.value != Medium::mains)
                media->addItem(shownText(word.title), static_cast<int>(word.value));
        connect(media, &QComboBox::currentIndexChanged, this, &PatternDialog::follow);
    }
    form_->addRow(tr("Links between them"), media_[0]);
    form_->addRow(tr("Links to endpoints"), media_[1]);
}

void PatternDialog::addPlace() {
    constexpr int usual = 100, least = 50, most = 300; // per cent
    spacing_ = new QSpinBox;
    spacing_->setRange(least, most);
    spacing_->setValue(usual);
    spacing_->setSuffix(tr(" %"));
    spacing_->setSingleStep(10);
    form_->addRow(tr("Spacing"), spacing_);
    auto* both = new QWidget;
    auto* row = new QHBoxLayout(both);
    row->setContentsMargins(0, 0, 0, 0);
    for (QSpinBox** field : {&x_, &y_}) {
        *field = new QSpinBox;
        (*field)->setRange(-sheetLimit, sheetLimit);
        row->addWidget(*field, 1);
    }
    x_->setPrefix(tr("x "));
    y_->setPrefix(tr("y "));
    x_->setValue(centre_.x);
    y_->setValue(centre_.y);
    x_->setAccessibleName(tr("Middle, from the left"));
    y_->setAccessibleName(tr("Middle, from above"));
    form_->addRow(tr("Middle at"), both);
    connect(spacing_, &QSpinBox::valueChanged, this, &PatternDialog::follow);
}

QSpinBox& PatternDialog::figure(const char* name) {
    for (const Figure& each : figures_)
        if (qstrcmp(each.name, name) == 0)
            return *each.field;
    return *figures_.front().field;
}

Pattern PatternDialog::pattern() const {
    Pattern pattern;
    pattern.shape = static_cast<PatternShape>(shape_->currentIndex());
    for (const Figure& figure : figures_)
        pattern.*figure.to = figure.field->value();
    edit::PatternPart* parts[] = {&pattern.upper, &pattern.middle, &pattern.lower};
    for (int part = 0; part < 3; ++part)
        if (!titleOfPart(pattern.shape, part).empty())
            *parts[part] = {models_[part]->currentData().toString().toStdString(),
                            names_[part]->text().toStdString()};
    pattern.medium = static_cast<Medium>(media_[0]->currentData().toInt());
    pattern.endpointMedium = static_cast<Medium>(media_[1]->currentData().toInt());
    pattern.spacing = spacing_->value() / 100.0;
    pattern.centre = Point{x_->value(), y_->value()};
    pattern.into = session_.scene().entered();
    return pattern;
}

/// Only what the shape has is asked for.
void PatternDialog::follow() {
    const auto chosen = static_cast<PatternShape>(shape_->currentIndex());
    for (const Figure& figure : figures_)
        form_->setRowVisible(figure.field,
                             std::find(figure.of.begin(), figure.of.end(), chosen) != figure.of.end());
    for (int part = 0; part < 3; ++part) {
        const QString title = shownText(titleOfPart(chosen, part));
        QWidget* both = models_[part]->parentWidget();
        form_->setRowVisible(both, !title.isEmpty());
        if (auto* label = qobject_cast<QLabel*>(form_->labelForField(both)))
            label->setText(title.left(1).toUpper() + title.mid(1));
        models_[part]->setAccessibleName(tr("Model of %1").arg(title));
        names_[part]->setAccessibleName(tr("Names of %1").arg(title));
    }
    form_->setRowVisible(media_[0], edit::hasMedium(chosen));
    form_->setRowVisible(media_[1], edit::hasEndpointMedium(chosen));
    const edit::PatternCount count = edit::countOf(pattern());
    summary_->setText(tr("%1, %2").arg(tr("%Ln device(s)", nullptr, count.devices),
                                       tr("%Ln link(s)", nullptr, count.links)));
    rest_.start();
}

/// Tried on a network of its own, so that what is in the way is told before.
void PatternDialog::draw() {
    IdSource ids(1);
    Network scratch = emptyNetwork("", ids);
    const SheetId sheet = scratch.sheetsInOrder().front().id;
    Pattern tried = pattern();
    tried.into = {};
    auto act = edit::addPattern(scratch, session_.catalogue(), sheet, tried, ids, session_.habits());
    act_->setEnabled(static_cast<bool>(act));
    draw_->setEnabled(static_cast<bool>(act));
    plates_.clear();
    if (!act) {
        picture_->clear();
        summary_->setText(
            QStringLiteral("%1; %2").arg(shownText(act.refusal().what), shownText(act.refusal().remedy)));
        return;
    }
    for (const ObjectRef each : act->subjects)
        if (const auto plate = scene::plateOf(act->network, sheet, *act->network.device({each.id})))
            plates_.push_back(plate->frame);
    pictures_.make(
        {{0, [network = act->network, sheet] { return std::optional(scene::Scene::build(network, sheet)); }}},
        paint::lightTheme(), previewSize * devicePixelRatioF());
}

} // namespace underridge::app
