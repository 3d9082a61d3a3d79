// SPDX-License-Identifier: GPL-3.0-or-later
// A small window from which a file can be dragged, as from a file manager: drag-source
// FILE.
#include <QApplication>
#include <QDrag>
#include <QLabel>
#include <QMimeData>
#include <QMouseEvent>
#include <QUrl>

namespace {

class Source : public QLabel {
public:
    explicit Source(const QString& path) : QLabel(QStringLiteral("drag from here")), path_(path) {
        setWindowTitle(QStringLiteral("Drag source"));
        setFixedSize(160, 90);
    }

protected:
    void mouseMoveEvent(QMouseEvent*) override {
        auto* drag = new QDrag(this);
        auto* held = new QMimeData;
        held->setUrls({QUrl::fromLocalFile(path_)});
        drag->setMimeData(held);
        drag->exec(Qt::CopyAction);
    }

private:
    QString path_;
};

} // namespace

int main(int argc, char** argv) {
    QApplication program(argc, argv);
    Source source(program.arguments().value(1));
    source.show();
    return QApplication::exec();
}
