// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/details_form.h"

#include "app/session/typed_fields.h"
#include "app/session/workspace.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/edit/late.h"

#include <QAbstractItemView>
#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QVBoxLayout>

namespace underridge::app {
namespace {

/// A text area that says when it is left, and when Esc is pressed.
class LongField : public QPlainTextEdit {
public:
    using QPlainTextEdit::QPlainTextEdit;
    std::function<void()> left, reverted;

protected:
    void focusOutEvent(QFocusEvent* event) override {
        QPlainTextEdit::focusOutEvent(event);
        if (TypedFields::leaves(*event))
            left();
    }
    void keyPressEvent(QKeyEvent* event) override {
        if (event->key() == Qt::Key_Escape)
            reverted();
        else
            QPlainTextEdit::keyPressEvent(event);
    }
};

/// The same of one line.
class LineField : public QLineEdit {
public:
    std::function<void()> left, reverted;

protected:
    void focusOutEvent(QFocusEvent* event) override {
        const QSignalBlocker quiet(this); // editingFinished() comes for menus and other windows too
        QLineEdit::focusOutEvent(event);
        if (TypedFields::leaves(*event))
            left();
    }
    void keyPressEvent(QKeyEvent* event) override {
        if (event->key() == Qt::Key_Escape)
            reverted();
        else
            QLineEdit::keyPressEvent(event);
    }
};

/// A value that can be selected once the pointer is on it: only then is it a document,
/// which is dear to lay out.
class ValueLabel : public QLabel {
public:
    using QLabel::QLabel;

protected:
    void enterEvent(QEnterEvent* event) override {
        setTextInteractionFlags(Qt::TextSelectableByMouse);
        QLabel::enterEvent(event);
    }
};

/// Short values fit in one line; heights that follow from widths are dear.
bool mayWrap(const QString& value) {
    constexpr qsizetype always = 12;
    return value.size() > always;
}

} // namespace

/// One row that is shown. It is patched by a description of the same kind and name.
class DetailsForm::Row {
public:
    Row(DetailsForm& form, const Description& description) : form_(form), is_(description) {}
    virtual ~Row() {
        if (widget_) { // it may be in the middle of an event of its own
            widget_->hide();
            widget_->deleteLater();
        }
        if (label_)
            label_->deleteLater();
    }
    Row(const Row&) = delete;
    Row& operator=(const Row&) = delete;

    bool isLike(const Description& other) const {
        return is_.kind == other.kind && is_.label == other.label && is_.name == other.name &&
               (is_.kind == Kind::value || is_.kind == Kind::text || is_.kind == Kind::longText ||
                is_.kind == Kind::check || is_.kind == Kind::choice || is_.kind == Kind::menu ||
                (is_.value == other.value && is_.picture.cacheKey() == other.picture.cacheKey()));
    }
    /// Returns whether it looks other than before.
    bool patch(const Description& description, bool sameSubject) {
        const Description old = std::exchange(is_, description);
        patched(old, sameSubject);
        return old.value != is_.value || old.placeholder != is_.placeholder || old.choices != is_.choices ||
               old.current != is_.current;
    }
    virtual bool commit() { return true; }
    virtual void focus() {}

    void beHeading(const Description& is);
    void beCheck(const Description& is);
    void beLink(const Description& is);
    void beAction(const Description& is);
    void beWords(const Description& is);

    QWidget* widget() const { return widget_; }
    QLabel* label() const { return label_; }

protected:
    /// Of a row that goes, while it is still what it is: a field that loses the keyboard by that says so
    /// once more, and never again.
    template <class Field>
    void letGo(Field& field) {
        if (!widget_)
            return; // the whole form goes, and took it along
        widget_->hide();
        field.left = field.reverted = [] {};
    }
    virtual void patched(const Description&, bool /*sameSubject*/) {
        if (auto* words = qobject_cast<QLabel*>(widget_); words && is_.kind == Kind::value) {
            words->setWordWrap(mayWrap(is_.value));
            words->setText(is_.value);
        }
        if (auto* box = qobject_cast<QCheckBox*>(widget_)) {
            const QSignalBlocker quiet(box);
            box->setChecked(is_.current != 0);
        }
    }

    DetailsForm& form_;
    Description is_;
    QWidget* widget_ = nullptr;
    QLabel* label_ = nullptr;
    friend class DetailsForm;
};

/// A field of one line, with what is wrong below it.
class DetailsForm::TextRow : public DetailsForm::Row {
public:
    TextRow(DetailsForm& form, const Description& description) : Row(form, description) {
        auto* box = new QWidget;
        auto* layout = new QVBoxLayout(box);
        layout->setContentsMargins(0, 0, 0, 0);
        layout->setSpacing(2);
        edit_ = new LineField;
        edit_->setText(is_.value);
        edit_->setAccessibleName(is_.label);
        edit_->setPlaceholderText(is_.placeholder);
        wrong_ = errorLabel();
        wrong_->hide();
        layout->addWidget(edit_);
        layout->addWidget(wrong_);
        edit_->left = [this] { commit(); };
        edit_->reverted = [this] { revert(); };
        QObject::connect(edit_, &QLineEdit::returnPressed, edit_, [this] { commit(); });
        widget_ = box;
        label_ = new QLabel(is_.label);
    }
    ~TextRow() override { letGo(*edit_); }

    bool commit() override {
        const QString typed = edit_->text().trimmed();
        if (!edit_->isModified() || typed == is_.value) {
            wrong_->hide();
            return true;
        }
        auto act = form_.checked(is_.commit(typed.toStdString()));
        if (!act) {
            wrong_->setText(QString::fromStdString(act.refusal().text()));
            wrong_->show();
            return false;
        }
        wrong_->hide();
        edit_->setModified(false);
        form_.apply(std::move(act)); // what it comes to is shown by the next description
        return true;
    }

    void focus() override { edit_->setFocus(); }

protected:
    void patched(const Description& old, bool sameSubject) override {
        edit_->setPlaceholderText(is_.placeholder);
        if (sameSubject && edit_->isModified() && is_.value == old.value)
            return; // half typed, or wrong and to be corrected
        if (sameSubject && edit_->isModified() && edit_->hasFocus())
            return; // the network has another value now; the person is typing theirs
        if (edit_->text() != is_.value)
            edit_->setText(is_.value);
        edit_->setModified(false);
        wrong_->hide();
    }

private:
    void revert() {
        edit_->setText(is_.value);
        edit_->setModified(false);
        wrong_->hide();
    }

    LineField* edit_;
    QLabel* wrong_;
};

class DetailsForm::LongRow : public DetailsForm::Row {
public:
    LongRow(DetailsForm& form, const Description& description) : Row(form, description) {
        edit_ = new LongField(is_.value);
        edit_->setAccessibleName(is_.label);
        edit_->setTabChangesFocus(true);
        edit_->setFixedHeight(66);
        edit_->left = [this] { commit(); };
        edit_->reverted = [this] {
            edit_->setPlainText(is_.value);
            edit_->document()->setModified(false);
        };
        edit_->document()->setModified(false);
        widget_ = edit_;
        label_ = new QLabel(is_.label);
    }
    ~LongRow() override { letGo(*edit_); }

    bool commit() override {
        const QString typed = edit_->toPlainText();
        if (!edit_->document()->isModified() || typed == is_.value)
            return true;
        auto act = form_.checked(is_.commit(typed.toStdString()));
        const bool good = static_cast<bool>(act);
        if (good)
            edit_->document()->setModified(false);
        form_.apply(std::move(act)); // a refusal is told in the status line; the text stays
        return good;
    }

    void focus() override { edit_->setFocus(); }

protected:
    void patched(const Description&, bool sameSubject) override {
        if (sameSubject && edit_->document()->isModified())
            return;
        if (edit_->toPlainText() != is_.value)
            edit_->setPlainText(is_.value);
        edit_->document()->setModified(false);
    }

private:
    LongField* edit_;
};

/// A list to choose from; while it is open it stays as it is.
class DetailsForm::ChoiceRow : public DetailsForm::Row {
public:
    ChoiceRow(DetailsForm& form, const Description& description) : Row(form, description) {
        box_ = new QComboBox;
        box_->setAccessibleName(is_.kind == Kind::menu ? is_.name : is_.label);
        box_->addItems(is_.choices);
        box_->setCurrentIndex(is_.current);
        box_->setToolTip(box_->currentText());
        box_->setMinimumContentsLength(8);
        box_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        QObject::connect(box_, &QComboBox::activated, box_, [this](int index) {
            if (is_.kind == Kind::choice)
                form_.apply(is_.choose(index));
            else if (index > 0)
                is_.act(index);
        });
        widget_ = box_;
        label_ = is_.kind == Kind::choice ? new QLabel(is_.label) : nullptr;
    }

protected:
    void patched(const Description& old, bool) override {
        if (box_->view()->isVisible()) { // what is chosen from it counts by what it showed
            is_ = old;
            return;
        }
        const QSignalBlocker quiet(box_);
        if (old.choices != is_.choices) {
            box_->clear();
            box_->addItems(is_.choices);
        }
        box_->setCurrentIndex(is_.current);
        box_->setToolTip(box_->currentText());
    }

private:
    QComboBox* box_;
};

DetailsForm::DetailsForm(Workspace& workspace)
    : workspace_(workspace), content_(new QWidget), title_(plainLabel()), subtitle_(plainLabel()) {
    auto* layout = new QVBoxLayout(content_);
    layout->setContentsMargins(14, 12, 14, 12);
    layout->setSpacing(8);
    QFont large = content_->font();
    large.setBold(true);
    large.setPointSizeF(large.pointSizeF() * 1.2);
    title_->setFont(large);
    subtitle_->setForegroundRole(QPalette::PlaceholderText);
    layout->addWidget(title_);
    layout->addWidget(subtitle_);
    auto* form = new QWidget;
    form_ = new QFormLayout(form);
    form_->setContentsMargins(0, 4, 0, 0);
    form_->setLabelAlignment(Qt::AlignLeft);
    form_->setHorizontalSpacing(10);
    form_->setVerticalSpacing(6);
    form_->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    layout->addWidget(form);
    layout->addStretch(1);
}

DetailsForm::~DetailsForm() {
    for (const auto& row : rows_) { // the content deletes them, now or already
        row->widget_ = nullptr;
        row->label_ = nullptr;
    }
}

void DetailsForm::begin(const QString& subject, const QString& title, const QString& subtitle) {
    if (subject != subject_)
        commitTyped();
    wanted_.clear();
    title_->setText(title);
    subtitle_->setText(subtitle);
    wanted_.push_back(
        {Kind::empty, {}, {}, {}, subject, {}, 0, {}, {}, {}, {}}); // carries the subject to end()
}

void DetailsForm::heading(const QString& words) {
    wanted_.push_back({Kind::heading, {}, words, {}, {}, {}, 0, {}, {}, {}, {}});
}

void DetailsForm::row(const QString& label, const QString& value) {
    wanted_.push_back({Kind::value, label, value, {}, {}, {}, 0, {}, {}, {}, {}});
}

void DetailsForm::emptyRow(const QString& words) {
    wanted_.push_back({Kind::empty, {}, words, {}, {}, {}, 0, {}, {}, {}, {}});
}

void DetailsForm::textRow(const QString& label, const QString& value, const QString& placeholder,
                          Commit commit) {
    wanted_.push_back({Kind::text, label, value, placeholder, {}, {}, 0, {}, std::move(commit), {}, {}});
}

void DetailsForm::longRow(const QString& label, const QString& value, Commit commit) {
    wanted_.push_back({Kind::longText, label, value, {}, {}, {}, 0, {}, std::move(commit), {}, {}});
}

void DetailsForm::checkRow(const QString& label, bool value, std::function<edit::ActResult(bool)> commit) {
    wanted_.push_back({Kind::check,
                       label,
                       {},
                       {},
                       {},
                       {},
                       value,
                       {},
                       {},
                       [commit = std::move(commit)](int on) { return commit(on != 0); },
                       {}});
}

void DetailsForm::switchRow(const QString& label, bool value, std::function<void(bool)> act) {
    wanted_.push_back({Kind::check, label, {}, {}, {}, {}, value, {}, {}, {}, [act = std::move(act)](int on) {
                           act(on != 0);
                       }});
}

void DetailsForm::choiceRow(const QString& label, const QStringList& choices, int current,
                            std::function<edit::ActResult(int)> commit) {
    wanted_.push_back({Kind::choice, label, {}, {}, {}, choices, current, {}, {}, std::move(commit), {}});
}

void DetailsForm::menuRow(const QString& name, const QStringList& choices, std::function<void(int)> act) {
    wanted_.push_back({Kind::menu, {}, {}, {}, name, choices, 0, {}, {}, {}, std::move(act)});
}

void DetailsForm::linkRow(const QString& label, const QString& words, std::function<void()> act) {
    wanted_.push_back(
        {Kind::link, label, words, {}, {}, {}, 0, {}, {}, {}, [act = std::move(act)](int) { act(); }});
}

void DetailsForm::actionRow(const QString& label, const QString& words, const QString& action,
                            const QString& name, std::function<void()> act) {
    wanted_.push_back(
        {Kind::action, label, words, action, name, {}, 0, {}, {}, {}, [act = std::move(act)](int) {
             act();
         }});
}

void DetailsForm::pictureRow(const QPixmap& picture, const QString& name, const QString& words,
                             std::function<void()> act) {
    wanted_.push_back(
        {Kind::link, {}, words, {}, name, {}, 0, picture, {}, {}, [act = std::move(act)](int) { act(); }});
}

std::unique_ptr<DetailsForm::Row> DetailsForm::make(const Description& is) {
    switch (is.kind) {
    case Kind::text:
        return std::make_unique<TextRow>(*this, is);
    case Kind::longText:
        return std::make_unique<LongRow>(*this, is);
    case Kind::choice:
    case Kind::menu:
        return std::make_unique<ChoiceRow>(*this, is);
    default:
        break;
    }
    auto made = std::make_unique<Row>(*this, is);
    switch (is.kind) {
    case Kind::heading:
        made->beHeading(is);
        break;
    case Kind::check:
        made->beCheck(is);
        break;
    case Kind::link:
        made->beLink(is);
        break;
    case Kind::action:
        made->beAction(is);
        break;
    default:
        made->beWords(is);
        break;
    }
    return made;
}

void DetailsForm::Row::beHeading(const Description& is) {
    auto* words = new QLabel(is.value.toUpper());
    QFont small = form_.content_->font();
    small.setPointSizeF(small.pointSizeF() * 0.85);
    small.setBold(true);
    words->setFont(small);
    words->setForegroundRole(QPalette::PlaceholderText);
    words->setContentsMargins(0, 8, 0, 0);
    widget_ = words;
}

void DetailsForm::Row::beCheck(const Description& is) {
    auto* box = new QCheckBox(is.label);
    box->setAccessibleName(is.label);
    box->setChecked(is.current != 0);
    QObject::connect(box, &QCheckBox::toggled, box, [this](bool on) {
        if (is_.choose)
            return form_.apply(is_.choose(on));
        const auto act = is_.act; // the row may go by it
        act(on);
    });
    widget_ = box;
}

void DetailsForm::Row::beLink(const Description& is) {
    auto* button = new TextButton(is.value);
    button->setAccessibleName(is.label.isEmpty() ? is.value
                                                 : QStringLiteral("%1: %2").arg(is.label, is.value));
    QObject::connect(button, &TextButton::clicked, button, [this] {
        const auto act = is_.act; // the row may go by it
        act(0);
    });
    widget_ = button;
    label_ = new QLabel(is.label);
    if (!is.picture.isNull()) {
        label_->setPixmap(is.picture);
        label_->setAccessibleName(is.name);
    }
}

void DetailsForm::Row::beAction(const Description& is) {
    auto* box = new QWidget;
    auto* line = new QHBoxLayout(box);
    line->setContentsMargins(0, 0, 0, 0);
    auto* button = new TextButton(is.placeholder, TextButton::Width::hugs);
    button->setAccessibleName(is.name);
    QObject::connect(button, &TextButton::clicked, button, [this] {
        const auto act = is_.act; // the row may go by it
        act(0);
    });
    line->addWidget(plainLabel(is.value), 1);
    line->addWidget(button, 0, Qt::AlignTop);
    widget_ = box;
    label_ = new QLabel(is.label);
}

/// A value, or words alone.
void DetailsForm::Row::beWords(const Description& is) {
    auto* words = is.kind == Kind::value ? new ValueLabel(is.value) : new QLabel(is.value);
    words->setTextFormat(Qt::PlainText);
    words->setWordWrap(mayWrap(is.value));
    widget_ = words;
    if (is.kind == Kind::value) {
        label_ = new QLabel(is.label);
    }
}

namespace {

/// Widgets just added to a form, shown at once. Left to the layouts they would be shown
/// one by one, and all of the form laid out anew for each.
void showTogether(const std::vector<QWidget*>& widgets, std::initializer_list<QLayout*> layouts) {
    for (QLayout* layout : layouts)
        layout->setEnabled(false);
    for (QWidget* widget : widgets)
        if (!widget->testAttribute(Qt::WA_WState_ExplicitShowHide))
            widget->show();
    for (QLayout* layout : layouts)
        layout->setEnabled(true);
}

/// Takes a row out of a form; its widgets stay.
void dropRow(QFormLayout& form, int row) {
    const QFormLayout::TakeRowResult taken = form.takeRow(row);
    delete taken.labelItem;
    delete taken.fieldItem;
}

} // namespace

bool DetailsForm::end() {
    const QString subject = wanted_.front().name;
    const bool same = subject == subject_;
    subject_ = subject;
    wanted_.erase(wanted_.begin());
    // Rows that are wanted still keep their order; what lies between two of them is new
    // or goes.
    std::vector<std::unique_ptr<Row>> shown;
    std::vector<QWidget*> added;
    bool changed = !same;
    std::size_t old = 0;
    for (const Description& wanted : wanted_) {
        std::size_t found = old;
        while (found < rows_.size() && !rows_[found]->isLike(wanted))
            ++found;
        const int at = static_cast<int>(shown.size());
        if (found == rows_.size()) {
            auto row = make(wanted);
            if (row->label())
                form_->insertRow(at, row->label(), row->widget());
            else
                form_->insertRow(at, row->widget());
            for (QWidget* widget : std::initializer_list<QWidget*>{row->label(), row->widget()})
                if (widget)
                    added.push_back(widget);
            shown.push_back(std::move(row));
            continue;
        }
        for (; old < found; ++old, changed = true)
            dropRow(*form_, at); // the row itself goes with `rows_`
        changed = rows_[old]->patch(wanted, same) || changed;
        shown.push_back(std::move(rows_[old++]));
    }
    for (; old < rows_.size(); ++old, changed = true)
        dropRow(*form_, static_cast<int>(shown.size()));
    rows_ = std::move(shown);
    wanted_.clear();
    showTogether(added, {form_, content_->layout()});
    // The layout keeps heights by width of rows that have been patched since.
    if (!changed && added.empty())
        return false;
    form_->invalidate();
    form_->update();
    return true;
}

bool DetailsForm::commitTyped() {
    bool all = true;
    for (std::size_t i = 0; i < rows_.size(); ++i)
        if (!rows_[i]->commit()) {
            rows_[i]->focus();
            all = false;
        }
    return all;
}

edit::ActResult DetailsForm::checked(edit::ActResult act) const {
    if (act)
        if (auto kept = edit::canBeKept(workspace_.network(), act->network); !kept)
            return kept.refusal();
    return act;
}

void DetailsForm::apply(edit::ActResult act) {
    workspace_.apply(std::move(act));
}

} // namespace underridge::app
