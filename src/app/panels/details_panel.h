// SPDX-License-Identifier: GPL-3.0-or-later
// What is known of the selection, editable in place; each edit is one step, what is wrong
// is said beside the field. With nothing selected it shows the sheet.
#pragma once
#include "app/panels/details_form.h"
#include "app/panels/sheet_counter.h"
#include "core/model/ports.h"

#include <QScrollArea>
#include <map>
#include <memory>

namespace underridge::app {

class Checker;
class Session;

class DetailsPanel : public QScrollArea {
    Q_OBJECT
public:
    DetailsPanel(Session& session, Checker& checker, QWidget* parent = nullptr);
    ~DetailsPanel() override;

    /// Takes what is typed in any field. False when something cannot be taken; it is said
    /// beside the field.
    bool commitTyped() { return form_->commitTyped(); }

    /// The editable field of a name ("Name", "Length"), for tests and the keyboard.
    QWidget* field(const QString& label) const;
    void refresh();

Q_SIGNALS:
    void otherPortWanted(underridge::model::LinkId link, int end);
    void chainWanted();
    /// The interfaces of a device, in the register.
    void interfacesWanted(const QString& device);
    void findingsWanted();
    /// What is not on this sheet is to be seen.
    void missingWanted();
    void planWanted(underridge::model::GroupId group);
    void planSheetWanted(underridge::model::GroupId group);
    void planGoes(underridge::model::GroupId group);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;

private:
    void settleHeight();
    /// A length as an example of how to write one.
    QString sampleLength() const;
    void begin(const QString& title, const QString& subtitle);
    QString subject() const;
    void showSelection();
    void showDevice(const model::Device& device);
    void showPort(const model::PortRef& port);
    void portSettings(const model::PortRef& port, const model::PortView& view, const model::Port& record);
    void showLink(const model::Link& link);
    void showNote(const model::Note& note);
    void showGroup(const model::Group& group);
    void showRoute(const model::CableRoute& route);
    void showSubnet(model::SubnetId id);
    void showAttachment(model::InterfaceId id);
    void addressesRow(const QString& label, const model::Interface& interface);
    void loadRows(const model::CableRoute& route);
    void selectCounted(const edit::Refs& counted);
    void planRows(const model::Group& group);
    void groupContents(const model::Group& group);
    void showSeveral();
    void severalDevices(const std::vector<model::Key>& devices, bool allOutside);
    void accessRow();
    void severalCables(const std::vector<model::Key>& cables);
    /// An act on several things leaves them selected.
    edit::ActResult keepingSelection(edit::ActResult act) const;
    void showSheet();
    void upperRows(const model::Sheet& sheet, const SheetCounter::Shared& counts);
    /// One line of the legend: how these links are drawn, and how many there are.
    void legendRow(const SheetCounter::Shared& counts, const std::vector<model::LinkId>& links);
    /// The chain a port is part of, when it runs through panels.
    void chainRow(const model::PortRef& port);
    void findingRows(const model::ObjectRef& object);
    void modelRows(const model::Device& device);
    void placeRows(const model::Device& device);
    void powerRows(const model::Device& device);
    void forwardingRows(const model::Device& device);
    void carryRows(const model::Device& device);
    void vlanRows(const model::PortRef& port);
    void supplyRow(const model::Device& device, const std::string& supply);
    void noteGroupRow(const model::Note& note);
    void cordRow(const model::Device& device, const model::PowerFeed& feed);
    void drawRow(const model::Device& device);
    /// What is lost, to be selected.
    void lossRow(const QString& label, const std::vector<model::DeviceId>& devices);
    void cableRows(const model::Link& link, const model::Cable& cable);
    void showUpperLink(const model::Link& link);
    void linkRows(const QString& label, const std::vector<model::LinkId>& links);
    void noteRow(const model::Link& link);
    void ringRows(model::LinkId link);
    void cableChoice(const model::Link& link, const model::Cable& cable);
    void cableLooks(const model::Link& link, const model::Cable& cable);
    /// Changes the cable of a link, which stays selected.
    edit::ActResult changeCable(model::LinkId link, model::CableId cable, std::string name,
                                std::function<void(model::Cable&)> how) const;
    void portLists(const model::Device& device);

    Session& session_;
    Checker& checker_;
    std::unique_ptr<DetailsForm> form_;
    std::map<std::pair<int, int>, QPixmap> legends_; ///< by form and medium
    SheetCounter counter_;
    std::pair<model::DeviceId, int> carries_; ///< a VLAN that is to be brought to a device
    bool refreshing_ = false;
};

} // namespace underridge::app
