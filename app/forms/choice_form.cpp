#include "app/forms/choice_form.h"

#include <QComboBox>
#include <QLineEdit>

namespace anvil::app {

ChoiceForm::ChoiceForm(const Question& question, std::function<QString(const QString&)> take, QWidget* parent)
    : TrayForm("choice_form", question.heading, parent) {
  if (!question.told.isEmpty()) say(question.told);
  std::function<QString()> answer;
  if (question.own_words && question.answers.size() < 2) {
    auto* typed = field(question.label, question.answers.value(0), "choice.answer");
    answer = [typed] { return typed->text().trimmed(); };
  } else {
    auto* chosen = choice(question.label, question.answers, "choice.answer");
    chosen->setEditable(question.own_words);
    answer = [chosen] { return chosen->currentText().trimmed(); };
  }
  ends_with(question.act, [answer, take = std::move(take)] { return take(answer()); });
}

}  // namespace anvil::app
